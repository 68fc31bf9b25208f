import { exponential, type Random } from '@night-bell/core/random/random';

/** Calls an hour at speed 1, over all numbers. */
const usualPerHour = 90;

/** Numbers the callers know, and how often each is called, out of all. */
export interface CalledNumber {
  to: string;
  share: number;
}

const areaCodes = [
  '206',
  '360',
  '425',
  '253',
  '604',
  '250',
  '503',
  '541',
  '509',
  '907',
  '778',
  '236',
  '971',
  '564',
];

/** An invented caller: 555-0100 to 555-0199 under some area code. */
export function inventedCaller(random: Random): string {
  const area = areaCodes[Math.floor(random() * areaCodes.length)]!;
  return `+1${area}55501${String(Math.floor(random() * 100)).padStart(2, '0')}`;
}

/** Callers who call by themselves, at random moments (a Poisson process), while switched on. */
export class Traffic {
  private readonly random: Random;
  private readonly call: (to: string, from: string) => void;
  private timer: NodeJS.Timeout | null = null;
  private numbers: CalledNumber[] = [];
  private speed = 1;

  constructor(random: Random, call: (to: string, from: string) => void) {
    this.random = random;
    this.call = call;
  }

  know(numbers: CalledNumber[]): void {
    this.numbers = numbers;
  }

  set(on: boolean, speed: number): void {
    this.speed = speed;
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
    if (on) this.next();
  }

  private next(): void {
    const wait = exponential(this.random, 3_600_000 / (usualPerHour * this.speed));
    this.timer = setTimeout(() => {
      const to = this.pick();
      if (to !== null) this.call(to, inventedCaller(this.random));
      this.next();
    }, wait);
  }

  private pick(): string | null {
    let left = this.random() * this.numbers.reduce((sum, each) => sum + each.share, 0);
    for (const number of this.numbers) if ((left -= number.share) < 0) return number.to;
    return null;
  }
}
