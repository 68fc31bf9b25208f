import type { Exchange } from '../exchange/exchange.ts';
import type { PassedStep } from '../exchange/kernel/journal.ts';
import type { Effect } from '../exchange/kernel/effects.ts';
import type { ExchangeEventBody } from '../exchange/kernel/events.ts';
import type { Detail, StoryRecord } from '../story/records.ts';
import { type HeapNode, IndexedHeap } from '../collections/indexed-heap.ts';

interface Planned extends HeapNode {
  at: number;
  order: number;
  what: ExchangeEventBody | (() => void);
}

/** Plays the outside world to an exchange on a made-up clock: what is due next happens next. */
export class Player {
  readonly exchange: Exchange;
  private readonly detail: Detail;
  private readonly react: (effect: Effect, player: Player) => void;
  private readonly note: (records: StoryRecord[], passed: readonly PassedStep[]) => void;
  private readonly agenda = new IndexedHeap<Planned>((one, other) =>
    one.at === other.at ? one.order < other.order : one.at < other.at,
  );
  private count = 0;

  /** `react` plans what devices do about an effect; `note` hears every record. */
  constructor(
    exchange: Exchange,
    detail: Detail,
    react: (effect: Effect, player: Player) => void,
    note: (records: StoryRecord[], passed: readonly PassedStep[]) => void,
  ) {
    this.exchange = exchange;
    this.detail = detail;
    this.react = react;
    this.note = note;
  }

  get now(): number {
    return this.exchange.now;
  }

  /** Plans an event, or something to do, for `at` (UTC milliseconds). */
  plan(at: number, what: ExchangeEventBody | (() => void)): void {
    this.agenda.push({ at, order: this.count++, what, heapIndex: -1 });
  }

  /** Takes an event in at once. */
  take(at: number, body: ExchangeEventBody): void {
    const handled = this.exchange.handle({ seq: this.exchange.seq + 1, at, ...body }, this.detail);
    this.note(handled.records, handled.passed);
    for (const effect of handled.effects) this.react(effect, this);
  }

  /**
   * Lets happen what is due, until `end` (exclusive), until nothing is left, or until `enough` says so after an
   * event. Returns false when it stopped at the end.
   */
  run(end: number, enough: () => boolean = () => false): boolean {
    for (;;) {
      if (enough()) return true;
      const planned = this.agenda.peek();
      const timer = this.exchange.nextTimerAt();
      // At one instant the exchange's own timers come before what arrives.
      if (timer !== null && (planned === undefined || timer <= planned.at)) {
        if (timer >= end) return false;
        this.take(timer, { kind: 'clock' });
      } else if (planned !== undefined) {
        if (planned.at >= end) return false;
        this.agenda.pop();
        if (typeof planned.what === 'function') planned.what();
        else this.take(planned.at, planned.what);
      } else return false;
    }
  }
}
