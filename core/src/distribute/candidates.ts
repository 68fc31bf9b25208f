import type { Reason, ReasonCode } from './eligibility.ts';

/** Up to this many members a decision lists everybody, also in live traffic. */
export const fullTableLimit = 25;

/** In larger queues live traffic names the chosen agent and this many behind them. */
export const namedBehindChosen = 4;

export type AgentDisplayState = 'available' | 'ringing' | 'talking' | 'wrappingUp' | 'away' | 'signedOut';

/** What would ring: a device in the house or at home, the person's page, an outside number, or an open line to one. */
export type ReachedBy =
  'softphone' | 'homeSoftphone' | 'desk' | 'cordless' | 'browser' | 'outside' | 'openLine';

/** One member as seen at the moment of a decision. */
export interface Candidate {
  personId: string;
  state: AgentDisplayState;
  phone: ReachedBy | null;
  stateSince: number;
  /** Null for members that have not been idle since they were last signed out. */
  idleSince: number;
  /** Every reason against; empty when eligible. */
  reasons: Reason[];
  /** Eligible, but already tried by this call while others were not. */
  triedBefore: boolean;
  /** What the order within the queue may depend on; stories of before have none of it. */
  turn?: number;
  answeredToday?: number;
  levels?: readonly number[];
}

/** Who was considered. `listed` is everybody when its length equals `total`; `counts` covers everybody. */
export interface Candidates {
  total: number;
  eligible: number;
  counts: Partial<Record<ReasonCode, number>>;
  listed: Candidate[];
}
