import type { WebSocket } from 'ws';
import type { FromGateway } from '@night-bell/core/devices/protocol';
import { tryAgainLater } from './gateway.ts';

/** Messages of one gateway that may wait for their turn. */
const mostWaiting = 20_000;

interface Taking {
  /** Null for what cannot be taken. */
  read: (text: string) => FromGateway | null;
  take: (message: FromGateway) => Promise<unknown>;
  fault: (error: unknown) => void;
}

/**
 * Takes what a gateway says, one message after the other, since order matters. Registrations wait for the database and
 * have a turn of their own, behind the greeting: after a restart all phones register at once, and calls do not wait for
 * them.
 */
export function takeInTurn(socket: WebSocket, { read, take, fault }: Taking): void {
  let turn = Promise.resolve();
  let registrations = Promise.resolve();
  let waiting = 0;
  socket.on('message', (data: Buffer) => {
    if (++waiting > mostWaiting) return socket.close(tryAgainLater, 'too many messages at once');
    const message = read(data.toString('utf8'));
    const takeAfter = (before: Promise<unknown>) =>
      before
        .then(async () => {
          if (message !== null) await take(message);
        })
        .catch(fault)
        .finally(() => void waiting--);
    if (message?.kind === 'sip') registrations = takeAfter(registrations);
    else turn = takeAfter(turn);
    if (message?.kind === 'hello') registrations = registrations.then(() => turn);
  });
}
