import type { BlockedKind } from '@night-bell/core/blocking/blocked';
import type { BlockedContract, BlockedDraft, BlockedView } from '@night-bell/core/contracts/blocked';
import { formatNumber } from '@night-bell/core/numbers/format';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const blockedApi = itemApi<BlockedContract>('blocked', '/api/blocked');

export const kindTitles: Record<BlockedKind, string> = {
  number: 'one number',
  prefix: 'all that begin with',
  withheld: 'withheld numbers',
};

export const dayMs = 86_400_000;
/** A nuisance is over some day; who is let in again by nobody's doing is forgotten. */
export const usualDays = 90;

export const blockedArea: ItemArea<BlockedDraft, BlockedView> = {
  api: blockedApi,
  page: '/blocked',
  savedAs: 'blocked',
  title: 'Blocked list',
  one: 'entry',
  second: 'Callers who are turned away',
  fresh: () => ({ name: '', kind: 'number', digits: '', until: Date.now() + usualDays * dayMs, why: '' }),
  draftOf: ({ name, kind, digits, until, why }) => ({ name, kind, digits, until, why }),
  words: { name: 'Name', kind: 'Who', digits: 'Digits', until: 'Until', why: 'Why' },
  show: (field, value) => {
    if (field === 'kind') return kindTitles[value as BlockedKind];
    if (field === 'until') return value === null ? 'for good' : new Date(value as number).toDateString();
    return showPlain(value);
  },
  unused: 'Nothing refers to it.',
};

export const isOver = ({ until }: BlockedView, now: number) => until !== null && until <= now;

/** '+1 360 555 0117', '+1360 …', 'withheld'. */
export function whoWords({ kind, digits }: Pick<BlockedView, 'kind' | 'digits'>): string {
  if (kind === 'withheld') return 'withheld';
  return kind === 'prefix' ? `${digits} …` : formatNumber(digits);
}
