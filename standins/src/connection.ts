import WebSocket from 'ws';
import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';

const reconnectMs = 300;
const pingEvery = 2_000;
const handshakeTimeout = 3_000;
/** A server may be asked before it hosts, or while another takes over. */
const askedForMs = 30_000;

/** The way to the server that hosts: one of several addresses, tried in turn until one keeps the connection. */
export class Connection {
  private readonly addresses: string[];
  private readonly key: string;
  private readonly opened: () => void;
  private readonly hear: (message: ToGateway) => void;
  private socket: WebSocket | null = null;
  private stopped = false;
  /** Connections tried; the next goes to the next address. */
  private tries = 0;

  constructor(
    { addresses, key }: { addresses: string[]; key: string },
    on: { opened: () => void; hear: (message: ToGateway) => void },
  ) {
    this.addresses = addresses;
    this.key = key;
    this.opened = on.opened;
    this.hear = on.hear;
  }

  get address(): string {
    return this.addresses[this.tries % this.addresses.length]!;
  }

  start(): void {
    if (this.stopped) return;
    const socket = new WebSocket(`${this.address.replace(/^http/, 'ws')}/devices`, {
      handshakeTimeout,
      headers: { authorization: `Bearer ${this.key}` },
    });
    this.socket = socket;
    const stopWatching = watch(socket);
    socket.on('open', () => this.opened());
    socket.on('message', (data: Buffer) => this.hear(JSON.parse(data.toString('utf8')) as ToGateway));
    socket.on('error', () => undefined);
    socket.on('close', () => {
      stopWatching();
      // One of several servers hosts; the others close with a word, or are not there.
      this.tries++;
      setTimeout(() => this.start(), reconnectMs);
    });
  }

  /** What a server answers, whichever of them there is; null when none did for half a minute. */
  async post(path: string, body: object): Promise<Response | null> {
    const until = Date.now() + askedForMs;
    for (let asked = this.tries; !this.stopped && Date.now() < until; asked++) {
      const answer = await fetch(`${this.addresses[asked % this.addresses.length]!}${path}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      }).catch(() => null);
      if (answer !== null && answer.status < 500) return answer;
      await new Promise((again) => setTimeout(again, reconnectMs));
    }
    return null;
  }

  stop(): void {
    this.stopped = true;
    this.socket?.close();
  }

  say(message: FromGateway): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify(message));
  }
}

/** A server that hangs keeps its connections; one that does not answer a ping is left. Returns how to stop. */
function watch(socket: WebSocket): () => void {
  let answered = true;
  socket.on('pong', () => (answered = true));
  const timer = setInterval(() => {
    if (!answered) return socket.terminate();
    if (socket.readyState === WebSocket.OPEN) {
      answered = false;
      socket.ping();
    }
  }, pingEvery);
  return () => clearInterval(timer);
}
