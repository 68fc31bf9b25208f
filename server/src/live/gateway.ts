import type { WebSocket } from 'ws';
import type { ToGateway } from '@night-bell/core/devices/protocol';
import type { RecordFacts } from '@night-bell/core/story/facts';

/** RFC 6455, registry of close codes. */
export const tryAgainLater = 1013;

export interface Binding {
  gateway: Gateway;
  device: string;
  /** Where it is reached. */
  contact: string;
  expiresAt: number;
}

export interface Gateway {
  name: string;
  socket: WebSocket;
  say: (message: ToGateway) => void;
  trunkHosts: string[];
}

/** Keeps the pages of a fax in its box. */
export type KeepFax = (fax: {
  boxId: string;
  callId: string;
  sender: string;
  pages: number;
  file: Buffer;
}) => Promise<void>;

/** What of a caller is known beside the digits, looked up before the exchange hears of the call. */
export type Recognise = (from: string) => Promise<RecordFacts | null>;

/** Bytes a gateway may be behind. One that takes nothing in is let go; it says hello again when it can. */
const mostBehind = 16 * 1024 * 1024;

export function gatewayOn(socket: WebSocket): Gateway {
  return {
    name: '',
    socket,
    say: (message) => {
      if (socket.readyState !== socket.OPEN) return;
      if (socket.bufferedAmount > mostBehind) socket.close(tryAgainLater, 'too far behind');
      else socket.send(JSON.stringify(message));
    },
    trunkHosts: [],
  };
}
