import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import type { Random } from '@night-bell/core/random/random';
import { textParts } from '@night-bell/core/texts/parts';
import { providerTakes } from './provider.ts';

/** What a provider asks for one part, in ten-thousandths of a dollar. */
const pricePerPart = 79;
const carryMs = 400;
/** Somebody who is texted writes back in a while, now and then. */
const answers = [
  'Thank you!',
  'Can you call me instead?',
  'Which dock does it leave from?',
  'Got it, see you on board.',
];
const answerMs = { least: 4_000, most: 15_000 };
const answerShare = 0.6;

function priceOf(body: string): string {
  return ((textParts(body).parts * pricePerPart) / 10_000).toFixed(4);
}

/** Texts between the public and us: carried for a price, refused where the provider would, answered now and then. */
export class Texting {
  private readonly random: Random;
  private readonly say: (message: FromGateway) => void;
  /** Texts taken, so that what is sent twice goes out once. */
  private readonly taken = new Set<string>();
  private readonly timers = new Set<NodeJS.Timeout>();
  private count = 0;

  constructor(random: Random, say: (message: FromGateway) => void) {
    this.random = random;
    this.say = say;
  }

  stop(): void {
    for (const timer of this.timers) clearTimeout(timer);
  }

  /** Somebody outside writes to one of our numbers. */
  place(to: string, from: string, body: string): void {
    const ref = `text-${Date.now()}-${++this.count}`;
    this.say({ kind: 'text', ref, to, from, body, price: priceOf(body) });
  }

  send({ ref, trunkHost, to, from, body }: ToGateway & { kind: 'sendText' }): void {
    this.later(carryMs, () => {
      if (!this.taken.has(ref)) {
        const why = providerTakes(trunkHost, to, this.random);
        if (why !== null) return this.say({ kind: 'textFailed', ref, why });
        this.taken.add(ref);
        const { least, most } = answerMs;
        if (this.random() < answerShare)
          this.later(least + this.random() * (most - least), () =>
            this.place(
              from,
              to.startsWith('+') ? to : `+${to}`,
              answers[Math.floor(this.random() * answers.length)]!,
            ),
          );
      }
      this.say({ kind: 'textSent', ref, price: priceOf(body) });
    });
  }

  private later(ms: number, work: () => void): void {
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      work();
    }, ms);
    this.timers.add(timer);
  }
}
