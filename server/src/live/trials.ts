import { v7 as uuid } from 'uuid';
import type { ToGateway } from '@night-bell/core/devices/protocol';
import type { LegFailure } from '@night-bell/core/story/facts';

/** One thing that happened on a trial call, milliseconds after it began. */
export interface TrialStep {
  afterMs: number;
  what: 'dialled' | 'answered' | 'hungUp' | 'failed' | 'timedOut';
  cause: LegFailure | null;
}

interface Trial {
  begun: number;
  steps: TrialStep[];
  timer: NodeJS.Timeout;
  done: (steps: TrialStep[]) => void;
  hangUp: () => void;
}

const ringSeconds = 20;
const talkMs = 1_500;

/** Calls of one leg that try a trunk: dialled, and hung up on soon after somebody lifts. Nobody of ours is rung. */
export class Trials {
  private readonly sayTo: (trunkHost: string) => ((message: ToGateway) => void) | null;
  private readonly trials = new Map<string, Trial>();

  constructor(sayTo: (trunkHost: string) => ((message: ToGateway) => void) | null) {
    this.sayTo = sayTo;
  }

  /** Resolves to what happened; null when nobody reaches the provider. */
  ring(call: {
    trunkHost: string;
    account: string;
    digits: string;
    callerId: string;
  }): Promise<TrialStep[]> | null {
    const say = this.sayTo(call.trunkHost);
    if (say === null) return null;
    const callId = uuid();
    const leg = `${callId}.1`;
    return new Promise((done) => {
      this.trials.set(leg, {
        begun: Date.now(),
        steps: [{ afterMs: 0, what: 'dialled', cause: null }],
        timer: setTimeout(() => this.finish(leg, 'timedOut', null), ringSeconds * 1000),
        done,
        hangUp: () => say({ kind: 'released', effect: `trial ${leg}`, callId, leg }),
      });
      say({ kind: 'dial', effect: `dial ${leg}`, leg, callId, ringSeconds, party: 'trial', ...call });
    });
  }

  /** False when it is no trial. */
  answered(leg: string): boolean {
    const trial = this.trials.get(leg);
    if (trial === undefined) return false;
    clearTimeout(trial.timer);
    trial.steps.push({ afterMs: Date.now() - trial.begun, what: 'answered', cause: null });
    trial.timer = setTimeout(() => this.finish(leg, 'hungUp', null), talkMs);
    return true;
  }

  failed(leg: string, cause: LegFailure | null): boolean {
    if (!this.trials.has(leg)) return false;
    this.finish(leg, cause === null ? 'hungUp' : 'failed', cause);
    return true;
  }

  private finish(leg: string, what: TrialStep['what'], cause: LegFailure | null): void {
    const trial = this.trials.get(leg)!;
    clearTimeout(trial.timer);
    this.trials.delete(leg);
    trial.hangUp();
    trial.done([...trial.steps, { afterMs: Date.now() - trial.begun, what, cause }]);
  }
}
