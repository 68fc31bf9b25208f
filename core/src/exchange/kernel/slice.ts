import type { Links } from './codecs.ts';
import type { State } from './state.ts';

/** One part of the state: what of it is saved, how it comes back, and what must hold of it between events. */
export interface Slice<Data> {
  readonly name: string;
  /** Raised when the shape of its data changes; `migrate` then says how data of the version before becomes this one's. */
  readonly version: number;
  readonly migrate: Readonly<Record<number, (data: never) => unknown>>;
  save(state: State): Data;
  /** Makes everything the data names, so that other slices can refer to it. */
  make(data: Data, state: State, links: Links): void;
  /** Gives what was made its fields, which may refer to anything. */
  fill(data: Data, state: State, links: Links): void;
  /** Makes what follows from the rest, when every slice is filled. */
  derive(state: State): void;
  /** What does not hold, in sentences. Costs a walk over the state. */
  invariants(state: Readonly<State>): string[];
}
