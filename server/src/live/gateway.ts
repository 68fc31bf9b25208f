import type { WebSocket } from 'ws';
import type { ToGateway } from '@night-bell/core/devices/protocol';
import type { RecordFacts } from '@night-bell/core/exchange/events';

const largestFax = 20 * 1024 * 1024;

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

export function gatewayOn(socket: WebSocket): Gateway {
  return {
    name: '',
    socket,
    say: (message) => {
      if (socket.readyState === socket.OPEN) socket.send(JSON.stringify(message));
    },
    trunkHosts: [],
  };
}

/** The pages of a fax as they came, when they are a PDF of a bearable size; else null. */
export function faxFile(base64: string): Buffer | null {
  const content = Buffer.from(base64, 'base64');
  const isPdf = content.subarray(0, 5).toString('latin1') === '%PDF-';
  return isPdf && content.length <= largestFax ? content : null;
}
