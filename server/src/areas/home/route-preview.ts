import type { Exchange } from '@night-bell/core/exchange/exchange';
import { testCallNow, type MeanTalk } from '@night-bell/core/rehearse/test-call';

export interface Previewed {
  numberId: string;
  e164: string;
  label: string;
  kind: string;
  name: string | null;
  afterMs: number;
  story: { kind: string; at: number }[];
}

const sampleCaller = '+13605550117';
const numbersTried = 12;

/** What a caller to each of the first numbers would meet now, each on its own. */
export function tryNumbers(
  exchange: Exchange,
  numbers: readonly { id: string; e164: string; label: string }[],
  talkMs: MeanTalk,
): Previewed[] {
  return numbers.slice(0, numbersTried).map(({ id, e164, label }) => {
    const call = { to: e164, from: sampleCaller, at: Date.now() };
    const { outcome, story } = testCallNow(exchange, call, talkMs);
    return {
      numberId: id,
      e164,
      label,
      kind: outcome.kind,
      name: 'name' in outcome ? outcome.name : null,
      afterMs: outcome.afterMs,
      story: story
        .filter((record) => record.kind !== 'decision' || record.chosen !== null)
        .map(({ kind, at }) => ({ kind, at })),
    };
  });
}
