import { setImmediate as nextTurn } from 'node:timers/promises';
import type { Exchange } from '@night-bell/core/exchange/exchange';
import { testCallNow } from '@night-bell/core/rehearse/test-call';

export interface Previewed {
  numberId: string;
  e164: string;
  label: string;
  kind: string;
  name: string | null;
  afterMs: number;
  story: { kind: string; at: number }[];
}

interface Asked {
  numbers: { id: string; e164: string; label: string }[];
  exchange: Exchange;
  /** How long talks of a queue take in the mean. */
  talkMs: (queueId: string | null) => number;
}

const sampleCaller = '+13605550117';
const numbersTried = 12;
const freshMs = 10_000;

/**
 * What a caller to each number would meet now. One answer for all who ask within some seconds, and one number tried in
 * each turn of the event loop: with many thousand people a test call takes a third of a second, and live calls come first.
 */
export class RoutePreview {
  private made: { at: number; setUp: string; answer: Promise<Previewed[]> } | null = null;

  now(asked: Asked): Promise<Previewed[]> {
    const setUp = JSON.stringify(asked.numbers.slice(0, numbersTried));
    if (this.made !== null && this.made.setUp === setUp && Date.now() - this.made.at < freshMs)
      return this.made.answer;
    const answer = tryAll(asked);
    this.made = { at: Date.now(), setUp, answer };
    // A fault is told to whoever asked, and not to those who ask later.
    answer.catch(() => (this.made = null));
    return answer;
  }
}

async function tryAll({ numbers, exchange, talkMs }: Asked): Promise<Previewed[]> {
  const previews: Previewed[] = [];
  for (const { id, e164, label } of numbers.slice(0, numbersTried)) {
    const { outcome, story } = testCallNow(
      exchange,
      { to: e164, from: sampleCaller, at: Date.now() },
      talkMs,
    );
    previews.push({
      numberId: id,
      e164,
      label,
      kind: outcome.kind,
      name: 'name' in outcome ? outcome.name : null,
      afterMs: outcome.afterMs,
      story: story
        .filter((record) => record.kind !== 'decision' || record.chosen !== null)
        .map(({ kind, at }) => ({ kind, at })),
    });
    await nextTurn();
  }
  return previews;
}
