import { agentsSlice } from './agents/agents.slice.ts';
import { callsSlice } from './calls/calls.slice.ts';
import type { Links } from './kernel/codecs.ts';
import type { Slice } from './kernel/slice.ts';
import { emptyState, type State } from './kernel/state.ts';
import { groupsSlice } from './groups/groups.slice.ts';
import { outboundSlice } from './outbound/outbound.slice.ts';
import { queuesSlice } from './queues/queues.slice.ts';
import { voicemailSlice } from './media/voicemail.slice.ts';
import { setUpSlice } from './set-up.slice.ts';

/**
 * Raise on any change that makes the same events give other effects; raise a slice's own version when what it saves
 * changes its shape.
 */
export const engineVersion = 11;

/** The slices of the state, in the order in which they are derived. */
const slices = {
  setUp: setUpSlice,
  calls: callsSlice,
  agents: agentsSlice,
  outbound: outboundSlice,
  queues: queuesSlice,
  voicemail: voicemailSlice,
  groups: groupsSlice,
};

type DataOf<S> = S extends Slice<infer Data> ? Data : never;

/** The whole state as data that survives JSON. Heaps, indexes and counts are left out: they follow from the rest. */
export interface ExchangeSnapshot {
  engine: number;
  now: number;
  seq: number;
  timerCount: number;
  slices: { [Name in keyof typeof slices]: { version: number; data: DataOf<(typeof slices)[Name]> } };
}

const each = Object.entries(slices) as unknown as [keyof typeof slices, Slice<unknown>][];

export function takeSnapshot(state: State): ExchangeSnapshot {
  const { now, seq, timerCount } = state;
  return {
    engine: engineVersion,
    now,
    seq,
    timerCount,
    slices: Object.fromEntries(
      each.map(([name, slice]) => [name, { version: slice.version, data: slice.save(state) }]),
    ) as unknown as ExchangeSnapshot['slices'],
  };
}

/** A new state that goes on where the snapshot was taken. Throws when the snapshot is not whole. */
export function restoreState(snapshot: ExchangeSnapshot): State {
  const state = emptyState();
  state.now = snapshot.now;
  state.seq = snapshot.seq;
  state.timerCount = snapshot.timerCount;
  const links: Links = { state, queues: new Map(), campaigns: new Map(), plans: new Map() };
  for (const [name, slice] of each) slice.make(snapshot.slices[name].data, state, links);
  for (const [name, slice] of each) slice.fill(snapshot.slices[name].data, state, links);
  for (const [, slice] of each) slice.derive(state);
  return state;
}

/** Every slice's data in the shape of today. Throws when a slice is newer than this engine, or too old. */
export function migrateSlices(snapshot: ExchangeSnapshot): ExchangeSnapshot {
  const migrated = each.map(([name, slice]) => {
    // A slice that is new has nothing saved: its first step makes it.
    const { version, data } = snapshot.slices[name] ?? { version: 0, data: null };
    let at: unknown = data;
    for (let from = version; from < slice.version; from++) {
      const step = slice.migrate[from];
      if (step === undefined) throw new Error(`${name} of version ${from} cannot be carried over`);
      at = step(at as never);
    }
    if (version > slice.version)
      throw new Error(`${name} is of version ${version}, newer than this engine's`);
    return [name, { version: slice.version, data: at }];
  });
  return {
    ...snapshot,
    engine: engineVersion,
    slices: Object.fromEntries(migrated) as unknown as ExchangeSnapshot['slices'],
  };
}

/**
 * What must hold between events, as sentences about what does not. Empty when all is well. Costs a walk over
 * the whole state: for tests, and for a host that has just rebuilt itself.
 */
export function brokenInvariants(state: Readonly<State>): string[] {
  return [
    ...each.flatMap(([, slice]) => slice.invariants(state)),
    ...(state.workList.isEmpty ? [] : ['something is left to do between events']),
    ...state.timers
      .values()
      .filter((timer) => timer.at < state.now)
      .map((timer) => `a ${timer.name} timer is overdue`),
  ];
}
