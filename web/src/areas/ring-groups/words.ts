import type {
  RingGroupDraft,
  RingGroupsContract,
  RingGroupView,
} from '@night-bell/core/contracts/ring-groups';
import type { Destination } from '@night-bell/core/model/destination';
import type { GroupShows } from '@night-bell/core/model/ring-group';
import { type GroupOrder, groupOrders, type RingTarget } from '@night-bell/core/model/ring';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const ringGroupApi = itemApi<RingGroupsContract>('ringGroup', '/api/ring-groups', {
  with: ['person', 'team'],
});

/** In a word or two, for lists. */
export const orderWords: Readonly<Record<GroupOrder, string>> = {
  allAtOnce: 'all at once',
  inTurn: 'in turn',
  roundRobin: 'round robin',
};
export const orderHints: Readonly<Record<GroupOrder, string>> = {
  allAtOnce: 'Everybody rings together; a number outside rings after them, alone.',
  inTurn: 'From the top of the list for each call. A team rings together.',
  roundRobin:
    'One phone after the other, those of a team by themselves. The next call goes on behind who answered.',
};
export const orderChoices = [...groupOrders];

export const showsChoices: readonly { value: GroupShows; title: string }[] = [
  { value: 'groupAndCaller', title: 'the group and the caller' },
  { value: 'caller', title: 'the caller' },
  { value: 'numberDialled', title: 'the number dialled' },
];

const wayWords = { whenUnanswered: 'its own voicemail box', whenBusy: 'as when nobody lifts' };
export const noWay = { ...wayWords, whenOutage: wayWords.whenBusy };

const ringGroupWords: ItemArea<RingGroupDraft, RingGroupView>['words'] = {
  name: 'Name',
  extension: 'Extension',
  targets: 'Who is rung',
  order: 'Rings',
  rounds: 'Rounds',
  shows: 'Phones show',
  whenUnanswered: 'Nobody lifts',
  whenBusy: 'All busy',
  whenOutage: 'No phone or line',
};

export function destinationWords(
  destination: Destination | null,
  none: string,
  nameOf: (id: string) => string,
): string {
  if (destination === null) return none;
  return destination.kind === 'end' ? 'told that nobody can take the call' : nameOf(destination.id);
}

export const ringGroupArea = (nameOf: (id: string) => string): ItemArea<RingGroupDraft, RingGroupView> => ({
  api: ringGroupApi,
  page: '/ring-groups',
  savedAs: 'ringGroups',
  title: 'Ring groups',
  one: 'ring group',
  second: 'Rings together or in turn; nobody waits in it',
  fresh: () => ({
    ...{ name: '', extension: null, targets: [], order: 'allAtOnce', rounds: 1, shows: 'groupAndCaller' },
    ...{ whenUnanswered: null, whenBusy: null, whenOutage: null },
  }),
  draftOf: ({ id: _i, version: _v, retired: _r, voicemailBoxId: _b, peopleCount: _p, ...draft }) => draft,
  words: ringGroupWords,
  show: (field, value) => {
    if (field === 'targets')
      return (
        (value as RingTarget[]).map(({ id, seconds }) => `${nameOf(id)} ${seconds} s`).join(', ') || 'nobody'
      );
    if (field === 'order') return orderWords[value as GroupOrder];
    if (field === 'shows') return showsChoices.find((each) => each.value === value)?.title ?? '';
    if (field in noWay)
      return destinationWords(value as Destination | null, noWay[field as keyof typeof noWay], nameOf);
    return showPlain(value);
  },
  first: 'Ring group',
  unused: 'Nothing leads to this group yet. Give a number this destination, or the group an extension.',
  finds: ({ extension }) => extension ?? '',
  made: ({ name }) => `${name} is made, with a voicemail box of its own.`,
});
