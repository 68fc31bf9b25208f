import { Worker } from 'node:worker_threads';
import { NotASound } from './not-a-sound.ts';
import { longestSeconds, type Prepared } from './prepared.ts';
import type { Voice } from './voice.ts';

type Answer = { id: number } & ({ prepared: Prepared } | { fault: string });

const patienceMs = 30_000;

/** Makes sounds ready, in a thread where there is one, and speaks words with the voice that is there. */
export class Sounds {
  readonly voice: Voice;
  private readonly file: URL | null;
  private worker: Worker | null = null;
  private count = 0;
  private readonly waiting = new Map<
    number,
    { resolve: (made: Prepared) => void; reject: (why: Error) => void }
  >();

  /** @param file of the thread; null does the work here, for tests */
  constructor(voice: Voice, file: URL | null) {
    this.voice = voice;
    this.file = file;
  }

  /** Throws NotASound. */
  prepare(file: Uint8Array, longest = longestSeconds): Promise<Prepared> {
    // Read only where it is needed: the decoders are large.
    if (this.file === null) return import('./prepare.ts').then(({ prepare }) => prepare(file, longest));
    const worker = (this.worker ??= this.begin(this.file));
    const id = ++this.count;
    return new Promise<Prepared>((resolve, reject) => {
      const timer = setTimeout(() => void worker.terminate(), patienceMs);
      const settle =
        <Value>(done: (value: Value) => void) =>
        (value: Value) => {
          clearTimeout(timer);
          this.waiting.delete(id);
          done(value);
        };
      this.waiting.set(id, { resolve: settle(resolve), reject: settle(reject) });
      worker.postMessage({ id, file, longest });
    });
  }

  private begin(file: URL): Worker {
    const worker = new Worker(file);
    worker.on('message', (answer: Answer) => {
      const asked = this.waiting.get(answer.id);
      if ('prepared' in answer) asked?.resolve(answer.prepared);
      else asked?.reject(new NotASound(answer.fault));
    });
    // A thread that ends is replaced when the next sound comes.
    worker.on('error', () => undefined);
    worker.on('exit', () => {
      if (this.worker === worker) this.worker = null;
      for (const { reject } of [...this.waiting.values()])
        reject(new NotASound('This file took too long to read. Bring a shorter one.'));
    });
    return worker;
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}
