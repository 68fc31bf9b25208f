import type { RecordTalk } from '@night-bell/core/model/recording';

interface Recorder {
  /** Recorded until it was paused last, in milliseconds. */
  ms: number;
  /** Since when it runs; null while it is paused. */
  since: number | null;
}

/** How long each talk is that is recorded here, without its pauses. */
export class TalkRecorder {
  private readonly talks = new Map<string, Recorder>();
  private readonly now: () => number;

  constructor(now: () => number = Date.now) {
    this.now = now;
  }

  /** Seconds of what was recorded when it stops; null before, and for what was never begun. */
  take(talk: string, does: RecordTalk): number | null {
    if (does === 'start') {
      this.talks.set(talk, { ms: 0, since: this.now() });
      return null;
    }
    const known = this.talks.get(talk);
    if (known === undefined) return null;
    if (known.since !== null) known.ms += this.now() - known.since;
    known.since = does === 'resume' ? this.now() : null;
    if (does !== 'stop') return null;
    this.talks.delete(talk);
    return known.ms / 1000;
  }
}
