import type { Slice } from '../kernel/slice.ts';

export interface Data {
  messages: [boxId: string, held: number][];
  storageFull: boolean;
}

/** How many messages voicemail boxes hold. What is in them is the host's. */
export const voicemailSlice: Slice<Data> = {
  name: 'voicemail',
  version: 1,
  migrate: { 0: (): Data => ({ messages: [], storageFull: false }) },
  save: ({ messages, storageFull }) => ({ messages: [...messages], storageFull }),
  make: ({ messages, storageFull }, state) => {
    state.messages = new Map(messages);
    state.storageFull = storageFull;
  },
  fill: () => undefined,
  derive: () => undefined,
  invariants: ({ messages }) =>
    [...messages].flatMap(([boxId, held]) => (held < 0 ? [`box ${boxId} holds ${held} messages`] : [])),
};
