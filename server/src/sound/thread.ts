/** A thread that makes one sound ready after the other: it takes tens of milliseconds for each, too long for the live loop. */
import { parentPort } from 'node:worker_threads';
import { NotASound } from './not-a-sound.ts';
import { prepare } from './prepare.ts';

const port = parentPort;
if (port === null) throw new Error('this is started as a thread');
port.on('message', ({ id, file, longest }: { id: number; file: Uint8Array; longest: number }) => {
  prepare(file, longest).then(
    (prepared) => port.postMessage({ id, prepared }),
    (error: unknown) =>
      port.postMessage({
        id,
        fault: error instanceof NotASound ? error.message : 'This file broke the reading of it.',
      }),
  );
});
