import type { ReadCalendar } from '@night-bell/core/hours/calendar';

/** What a calendar says, read in a thread of its own. Rejects when the thread cannot be started. */
export function readBeside(text: string, zone: string, today: string): Promise<ReadCalendar> {
  const worker = new Worker(new URL('./calendar-worker.ts', import.meta.url), { type: 'module' });
  return new Promise<ReadCalendar>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<ReadCalendar>) => resolve(data);
    worker.onerror = () => reject(new Error('the thread cannot be started'));
    worker.postMessage({ text, zone, today });
  }).finally(() => worker.terminate());
}
