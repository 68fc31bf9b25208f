import { groupShows } from '../model/ring-group.ts';
import { groupOrders, mostRounds, mostTargets, ringSeconds, ringTargetKinds } from '../model/ring.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  choice,
  destinationOrNone,
  extensionOrNone,
  flag,
  id,
  list,
  name,
  object,
  type Out,
  ruled,
  seconds,
  text,
  usually,
  whole,
} from './parts.ts';

const target = object({
  kind: choice(...ringTargetKinds),
  id,
  seconds: usually(seconds(ringSeconds.least, ringSeconds.most), ringSeconds.usual),
});
const targets = ruled(list(target, mostTargets), (all) =>
  new Set(all.map((each) => each.id)).size === all.length
    ? null
    : 'Somebody is in it twice. Take one of them out.',
);

/** A few phones that ring together or in turn; nobody waits in it. */
export const ringGroups = itemContract(
  { area: 'Ring groups', path: '/api/ring-groups', one: 'a ring group', many: 'ring groups' },
  {
    name,
    extension: extensionOrNone,
    targets: usually(targets, []),
    order: usually(choice(...groupOrders.map(({ value }) => value)), 'allAtOnce' as const),
    rounds: usually(whole(1, mostRounds), 1),
    shows: usually(choice(...groupShows), 'groupAndCaller' as const),
    /** Null leads to its own voicemail box. */
    whenUnanswered: destinationOrNone,
    /** Null where that is as when nobody lifts. */
    whenBusy: destinationOrNone,
    whenOutage: destinationOrNone,
  },
  { voicemailBoxId: id, peopleCount: whole(0, 1_000_000) },
);

/** A person in a ring group, and whether they take part in it now. */
export const groupMember = object({
  personId: id,
  name: text(200),
  takesPart: flag,
  /** Whether a phone of theirs could ring now. */
  canRing: flag,
});

/** A ring group somebody is in. */
export const ownGroup = object({ id, name: text(200), takesPart: flag });

export type RingGroupsContract = typeof ringGroups;
export type RingGroupDraft = DraftOf<RingGroupsContract>;
export type RingGroupView = ViewOf<RingGroupsContract>;
export type GroupMember = Out<typeof groupMember>;
export type OwnGroup = Out<typeof ownGroup>;
