/** The thread beside the live loop: connects by itself, follows the log, and answers what it is asked, one by one. */
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../database/connection.ts';
import { Follower } from './follower.ts';
import type { Asked, FromThread, ThreadData, ToThread } from './messages.ts';

const port = parentPort;
if (port === null) throw new Error('this is started as a thread');
const follower = new Follower(connect((workerData as ThreadData).database));
let told: Promise<unknown> = Promise.resolve();

port.on('message', (message: ToThread) => {
  if (message.kind === 'reset') follower.reset();
  else if (message.kind === 'committed')
    // What could not be followed now is followed when somebody asks.
    told = told.then(() => follower.committed(message.seq, message.hosting)).catch(() => undefined);
  else
    void answer(message).then(
      (answered) => port.postMessage({ id: message.id, answer: answered } satisfies FromThread),
      (error: unknown) => port.postMessage({ id: message.id, fault: String(error) } satisfies FromThread),
    );
});

function answer(message: Asked): Promise<unknown> {
  switch (message.kind) {
    case 'testCall':
      return follower.testCall(message.asked);
    case 'hours':
      return follower.hours(message.asked);
    case 'home':
      return follower.homeText(message.asked);
    case 'setUpDifference':
      return follower.setUpDifference(message.seq);
  }
}
