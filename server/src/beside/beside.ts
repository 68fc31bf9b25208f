import type { HourAsked, HoursPlayed } from '@night-bell/core/contracts/queue-hours';
import type { ConfigurationChanges } from '@night-bell/core/model/configuration';
import type { TestCall, TestResult } from '@night-bell/core/rehearse/test-call';
import type { LinesNow } from '../areas/home/view.ts';

/** A test call, as the exchange is after event `seq`, or at another moment with everybody there. */
export interface TestCallAsked {
  seq: number;
  call: TestCall;
  now: boolean;
  /** Mean talk by queue, in milliseconds, and what is taken for queues that have none. */
  talks: [queueId: string, ms: number][];
  usualTalkMs: number;
}

/** Made-up hours of one queue, as the exchange has it after event `seq`. */
export interface HoursAsked {
  seq: number;
  queueId: string;
  asked: HourAsked;
  goalSeconds: number;
}

/**
 * What is computed beside the live loop, by whoever follows the committed log: all that is not a live call. The same work
 * runs in a thread of its own (thread-client.ts), or in this one where tests want no thread (here.ts).
 */
export interface Beside {
  /** Hours of a queue, one for each seed; null for a queue the exchange does not know. */
  hours(asked: HoursAsked): Promise<HoursPlayed | null>;
  testCall(asked: TestCallAsked): Promise<TestResult>;
  /** The view of Home as JSON, as it is after event `seq`; made at most every few seconds, for all who ask. */
  home(asked: { seq: number; lines: LinesNow | null }): Promise<string>;
  /** What of the set-up the exchange has not heard of, when it knows all up to event `seq`. Null for nothing. */
  setUpDifference(seq: number): Promise<ConfigurationChanges | null>;
  /** Events up to `seq` are committed. The host's follower leaves a checkpoint now and then. */
  committed(seq: number, hosting: boolean): void;
  /** The exchange was rebuilt: what was followed may not be what the log says now. */
  reset(): void;
  close(): Promise<void>;
}
