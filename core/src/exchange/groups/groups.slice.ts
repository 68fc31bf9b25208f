import type { RingGroupItem } from '../../model/ring-group.ts';
import type { Slice } from '../kernel/slice.ts';
import { RingGroup } from './ring-group.ts';

export type Data = { item: RingGroupItem; lastAnswered: string | null; sitOut: readonly string[] }[];

/** Ring groups: what they are, who answered last and who sits out. */
export const groupsSlice: Slice<Data> = {
  name: 'groups',
  version: 1,
  migrate: { 0: (): Data => [] },
  save: ({ ringGroups }) =>
    [...ringGroups.values()].map(({ item, lastAnswered, sitOut }) => ({ item, lastAnswered, sitOut })),
  make: (data, state) => {
    for (const { item, ...kept } of data)
      state.ringGroups.set(item.id, Object.assign(new RingGroup(item), kept));
  },
  fill: () => undefined,
  derive: () => undefined,
  invariants: ({ ringGroups }) =>
    [...ringGroups.values()].flatMap(({ item, sitOut }) =>
      new Set(sitOut).size === sitOut.length ? [] : [`somebody sits out of ${item.name} twice`],
    ),
};
