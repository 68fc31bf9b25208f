/** Times in milliseconds by name, printed with median and longest. */
export class Figures {
  private readonly times = new Map<string, number[]>();

  add(name: string, ms: number): void {
    this.times.set(name, [...(this.times.get(name) ?? []), ms]);
  }

  median(name: string): number {
    const sorted = [...(this.times.get(name) ?? [])].sort((one, other) => one - other);
    return sorted[Math.floor((sorted.length - 1) / 2)] ?? 0;
  }

  print(): void {
    for (const [name, times] of this.times) {
      const seconds = (ms: number) => `${(ms / 1_000).toFixed(2)} s`;
      process.stdout.write(
        `  ${name.padEnd(46)} median ${seconds(this.median(name))}, longest ${seconds(Math.max(...times))}, of ${times.length}\n`,
      );
    }
  }
}

/** The same draws in every run. */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}
