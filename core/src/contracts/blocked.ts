import { blockedKinds } from '../blocking/blocked.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, instant, name, nullable, ruled, text, whole } from './parts.ts';

/** '+' and digits, as numbers are written everywhere (E.164); empty for those withheld. */
const digits = ruled(text(20), (value) =>
  value === '' || /^\+[1-9]\d*$/.test(value)
    ? null
    : 'Digits with the country code in front, for example +1360.',
);

/** Callers who are turned away. */
export const blocked = itemContract(
  { area: 'Blocked list', path: '/api/blocked', one: 'a blocked caller', many: 'blocked callers' },
  {
    name,
    kind: choice(...blockedKinds),
    digits,
    /** From then on they are let in again; null for never. */
    until: nullable(instant),
    /** Why, for whoever looks at it later. */
    why: text(300),
  },
  {
    hits: whole(0, Number.MAX_SAFE_INTEGER),
    lastHit: nullable(instant),
  },
);

export type BlockedContract = typeof blocked;
export type BlockedDraft = DraftOf<BlockedContract>;
export type BlockedView = ViewOf<BlockedContract>;
