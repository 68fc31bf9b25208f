import type { ExchangeEvent } from '@night-bell/core/exchange/events';
import { engineVersion, Exchange, type Handled } from '@night-bell/core/exchange/exchange';
import type { StoryRecord } from '@night-bell/core/exchange/records';
import type { Database } from '../database/connection.ts';
import { type Checkpoint, type EndedCall, eventsAfter, lastCheckpoint, lastSeq } from './log.queries.ts';

/** Events replayed between two looks at the outside world: requests are answered meanwhile. */
const replayedAtOnce = 1_000;

/** How far the log is read, and who hears of how far it has been. */
interface Extent {
  last?: number | null;
  progress?: (seq: number) => void;
}

/** What one event did, with the stories of the calls it ended. */
export interface Applied {
  event: ExchangeEvent;
  handled: Handled;
  ended: EndedCall[];
}

/** The exchange rebuilt from the log, with the stories of the calls in progress. Host and followers stand on it. */
export class Replica {
  exchange: Exchange;
  readonly stories: Map<string, StoryRecord[]>;

  private constructor(exchange: Exchange, stories: [string, StoryRecord[]][]) {
    this.exchange = exchange;
    this.stories = new Map(stories);
  }

  /**
   * Loads the last checkpoint and replays the log behind it; as it was right after event `last`, when that is given.
   * Throws an ExchangeFault when an event of the log breaks the engine.
   */
  static async load(
    database: Database,
    { last = null, progress = () => undefined }: Extent = {},
  ): Promise<Replica> {
    const checkpoint = await lastCheckpoint(database, last);
    if (checkpoint !== null && checkpoint.engineVersion !== engineVersion) {
      // Another engine's state cannot be continued: the set-up is compiled anew, calls in progress are lost.
      return new Replica(Exchange.startingAfter(Math.max(checkpoint.seq, await lastSeq(database))), []);
    }
    const replica =
      checkpoint === null
        ? new Replica(new Exchange(), [])
        : new Replica(Exchange.restore(checkpoint.state), checkpoint.stories);
    await replica.catchUp(database, { last, progress });
    return replica;
  }

  /** Applies every committed event that is not applied yet. */
  async catchUp(
    database: Database,
    { last = null, progress = () => undefined }: Extent = {},
  ): Promise<Applied[]> {
    const applied: Applied[] = [];
    for (;;) {
      const events = await eventsAfter(database, this.exchange.seq, last, replayedAtOnce);
      if (events.length === 0) return applied;
      for (const event of events) if (event.seq > this.exchange.seq) applied.push(this.apply(event));
      progress(this.exchange.seq);
    }
  }

  apply(event: ExchangeEvent): Applied {
    const handled = this.exchange.handle(event, 'bounded');
    for (const record of handled.records) {
      const story = this.stories.get(record.callId);
      if (story === undefined) this.stories.set(record.callId, [record]);
      else story.push(record);
    }
    const ended: EndedCall[] = [];
    for (const effect of handled.effects) {
      if (effect.kind !== 'callEnded') continue;
      ended.push({ facts: effect.facts, story: this.stories.get(effect.facts.callId) ?? [] });
      this.stories.delete(effect.facts.callId);
    }
    return { event, handled, ended };
  }

  checkpoint(): Checkpoint {
    return {
      seq: this.exchange.seq,
      engineVersion,
      state: this.exchange.snapshot(),
      stories: [...this.stories],
    };
  }
}
