import type { CompiledPlan } from '../../model/plan.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { Campaign } from '../outbound/campaign.ts';
import type { QueueState } from '../queues/queue.ts';
import type { State } from './state.ts';
import { startTimer, type Timer, type TimerName, type TimerOwner } from './timers.ts';

/** What saved ids and keys stand for while a state is restored, also of what is no longer in the set-up. */
export interface Links {
  state: State;
  queues: Map<string, QueueState>;
  campaigns: Map<string, Campaign>;
  plans: Map<string, CompiledPlan>;
}

/** How a field becomes data that survives JSON, and comes back. `owner` is whose field it is. */
export interface Codec<T, Saved> {
  save(value: T): Saved;
  load(saved: Saved, links: Links, owner: object): T;
}

/** A field that follows from the rest and is made again; never saved. */
export const derived = { derived: true } as const;
type Derived = typeof derived;

type MethodsOf<T> = { [F in keyof T]: T[F] extends (...args: never[]) => unknown ? F : never }[keyof T];

/** A codec for every field of T: a field that is neither saved nor derived does not compile. */
export type CodecsOf<T> = {
  readonly [F in Exclude<keyof T, MethodsOf<T>>]-?:
    { save(value: T[F]): unknown; load(saved: never, links: Links, owner: object): T[F] } | Derived;
};

/** The data that these codecs save. */
export type SavedBy<C> = {
  -readonly [F in keyof C as C[F] extends Derived ? never : F]: C[F] extends {
    save(value: never): infer Saved;
  }
    ? Saved
    : never;
};

type AnyCodecs = Readonly<Record<string, Codec<unknown, unknown> | Derived>>;

export function saveFields<C>(codecs: C, from: object): SavedBy<C> {
  const saved: Record<string, unknown> = {};
  for (const [name, codec] of Object.entries(codecs as AnyCodecs))
    if (!('derived' in codec)) saved[name] = codec.save(from[name as keyof typeof from]);
  return saved as SavedBy<C>;
}

export function loadFields<C>(codecs: C, into: object, saved: SavedBy<C>, links: Links): void {
  const values: Record<string, unknown> = {};
  for (const [name, codec] of Object.entries(codecs as AnyCodecs))
    if (!('derived' in codec)) values[name] = codec.load(saved[name as keyof typeof saved], links, into);
  Object.assign(into, values);
}

/** Data that nobody changes in place: it is saved as it is. */
export function asIs<T>(): Codec<T, T> {
  return { save: (value) => value, load: (saved) => saved };
}

/** Data that is changed in place: it is copied, both ways. */
export function copied<T>(): Codec<T, T> {
  return { save: copy, load: copy };
}

function copy<T>(value: T): T {
  if (Array.isArray(value)) return value.map((each) => copy(each)) as T;
  if (value === null || typeof value !== 'object') return value;
  const made: Record<string, unknown> = {};
  for (const [name, each] of Object.entries(value)) made[name] = copy(each);
  return made as T;
}

export function nullable<T, Saved>(codec: Codec<T, Saved>): Codec<T | null, Saved | null> {
  return {
    save: (value) => (value === null ? null : codec.save(value)),
    load: (saved, links, owner) => (saved === null ? null : codec.load(saved, links, owner)),
  };
}

export function listOf<T, Saved>(codec: Codec<T, Saved>): Codec<T[], Saved[]> {
  return {
    save: (values) => values.map((value) => codec.save(value)),
    load: (saved, links, owner) => saved.map((each) => codec.load(each, links, owner)),
  };
}

function found<T>(map: Map<string, T>, id: string): T {
  const it = map.get(id);
  if (it === undefined) throw new Error(`the saved state names ${id}, which it does not hold`);
  return it;
}

export const agentId: Codec<Agent, string> = {
  save: (agent) => agent.person.id,
  load: (id, { state }) => found(state.agents, id),
};

export const callId: Codec<Call, string> = {
  save: (call) => call.id,
  load: (id, { state }) => found(state.calls, id),
};

export const queueId: Codec<QueueState, string> = {
  save: (queue) => queue.item.id,
  load: (id, { queues }) => found(queues, id),
};

export const campaignId: Codec<Campaign, string> = {
  save: (campaign) => campaign.item.id,
  load: (id, { campaigns }) => found(campaigns, id),
};

/** A timer as data; its owner is the entity it stands with. */
export interface SavedTimer {
  name: TimerName;
  at: number;
  order: number;
}

export const timers: Codec<Timer | null, SavedTimer[]> = {
  save: (first) => {
    const saved: SavedTimer[] = [];
    for (let timer = first; timer !== null; timer = timer.next)
      saved.push({ name: timer.name, at: timer.at, order: timer.order });
    return saved;
  },
  load: (saved, { state }, owner) =>
    saved.reduceRight<Timer | null>(
      (next, { name, at, order }) => startTimer(state, owner as TimerOwner, name, at, order, next),
      null,
    ),
};
