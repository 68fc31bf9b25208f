import { Exchange, type Handled } from '@night-bell/core/exchange/exchange';
import type { ExchangeEvent } from '@night-bell/core/exchange/kernel/events';
import { engineVersion } from '@night-bell/core/exchange/snapshot';
import { ExchangeFault, namesOf } from '@night-bell/core/exchange/set-aside';
import { upgradeSnapshot } from '@night-bell/core/exchange/upgrade';
import type { StoryRecord } from '@night-bell/core/story/records';
import type { Database } from '../database/connection.ts';
import {
  type Checkpoint,
  type EndedCall,
  eventsAfter,
  firstSeq,
  lastCheckpoint,
  lastSeq,
} from './log.queries.ts';

/** Events replayed between two looks at the outside world: requests are answered meanwhile. */
const replayedAtOnce = 1_000;

/** How far the log is read, and who hears of how far it has been. */
interface Extent {
  last?: number | null;
  progress?: (seq: number) => void;
}

/** Who hears of what could not be used. */
interface Said {
  said?: (sentence: string) => void;
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
    { last = null, progress = () => undefined, said = () => undefined }: Extent & Said = {},
  ): Promise<Replica> {
    const replica = await Replica.fromCheckpoint(database, last, said);
    await replica.catchUp(database, { last, progress });
    return replica;
  }

  /**
   * From the latest checkpoint that can be continued. One that was cut short, or is of an engine that cannot be
   * continued, is passed over with a sentence; the log is replayed from the one before, or from its beginning.
   */
  private static async fromCheckpoint(
    database: Database,
    last: number | null,
    said: (sentence: string) => void,
  ): Promise<Replica> {
    let before = last;
    for (;;) {
      const checkpoint = await lastCheckpoint(database, before);
      if (checkpoint === null) break;
      try {
        const state = upgradeSnapshot(checkpoint.engineVersion, checkpoint.state);
        if (state !== null) return new Replica(Exchange.restore(state), checkpoint.stories);
        said(
          `The checkpoint at ${checkpoint.seq} is of engine version ${checkpoint.engineVersion}, which version ${engineVersion} cannot continue. The log is read from the checkpoint before.`,
        );
      } catch (error) {
        said(
          `The checkpoint at ${checkpoint.seq} cannot be read (${String(error)}). The log is read from the checkpoint before.`,
        );
      }
      before = checkpoint.seq - 1;
    }
    const first = await firstSeq(database);
    if (first === null || first === 1) return new Replica(new Exchange(), []);
    said(
      'No checkpoint can be continued and the log does not reach back to its beginning: calls in progress are lost.',
    );
    return new Replica(Exchange.startingAfter(last ?? (await lastSeq(database))), []);
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
    // The exchange is none the worse for it; but it is a fault of ours that it came this far, and it is kept and shown.
    if (handled.refusal === 'malformed')
      throw new ExchangeFault(event, namesOf(event, null), 'a field of it is not what it should be');
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
