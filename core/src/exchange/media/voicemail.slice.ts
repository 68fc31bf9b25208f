import type { BoxLock } from './box-lock.ts';
import type { Slice } from '../kernel/slice.ts';

export interface Data {
  messages: [boxId: string, held: number][];
  storageFull: boolean;
  boxLocks: [boxId: string, lock: BoxLock][];
}

/** How many messages voicemail boxes hold. What is in them is the host's. */
export const voicemailSlice: Slice<Data> = {
  name: 'voicemail',
  version: 2,
  migrate: {
    0: (): Data => ({ messages: [], storageFull: false, boxLocks: [] }),
    1: (data: Data) => ({ ...data, boxLocks: [] }),
  },
  save: ({ messages, storageFull, boxLocks }) => ({
    ...{ messages: [...messages], storageFull },
    boxLocks: [...boxLocks].map(([boxId, lock]) => [boxId, { ...lock }]),
  }),
  make: ({ messages, storageFull, boxLocks }, state) => {
    state.boxLocks = new Map(boxLocks);
    state.messages = new Map(messages);
    state.storageFull = storageFull;
  },
  fill: () => undefined,
  derive: () => undefined,
  invariants: ({ messages }) =>
    [...messages].flatMap(([boxId, held]) => (held < 0 ? [`box ${boxId} holds ${held} messages`] : [])),
};
