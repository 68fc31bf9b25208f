import { timingSafeEqual } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { Logger } from 'pino';
import type { WebSocket } from 'ws';
import { roles } from '@night-bell/core/model/roles';
import type { BrowserPhones } from '../live/browser-phones.ts';
import { tryAgainLater } from '../live/gateway.ts';
import type { Gateways } from '../live/gateways.ts';
import type { Pages } from '../live/pages.ts';
import type { Session, Sessions } from '../security/sessions.ts';
import { isForeign } from './origin.ts';

/** Sockets are no declared routes; each says here who may open it. */
export const sockets = {
  '/api/live': roles,
  '/api/desk/phone-line': roles,
  '/devices': 'gateways with the key',
} as const;

/** Close codes of ours (RFC 6455, 7.4.2: 4000 to 4999 are for applications). */
const signInFirst = 4401;
const nothingIsExpected = 1008;
/** A sign-in that ended, on whichever server, a deactivation or another role is noticed within a second. */
const lookEvery = 700;
const mostOfSession = 30;

interface OpenSocket {
  socket: WebSocket;
  session: Session;
}

/** Sockets that pages hold open. Each lives no longer than the sign-in it was opened with, and with that role only. */
export class PageSockets {
  private readonly sessions: Sessions;
  private readonly open = new Set<OpenSocket>();
  private readonly timer: NodeJS.Timeout;
  private readonly stopHearing: () => void;

  constructor(sessions: Sessions, logger: Logger) {
    this.sessions = sessions;
    this.timer = setInterval(
      () =>
        void this.look().catch((error: unknown) =>
          logger.warn({ error: String(error) }, 'sign-ins of open pages could not be looked at'),
        ),
      lookEvery,
    );
    this.stopHearing = sessions.onEnded((gone) => this.closeThose(({ session }) => gone(session)));
  }

  close(): void {
    clearInterval(this.timer);
    this.stopHearing();
  }

  /** The sign-in behind a request for a socket; null when there is none, and the socket is closed then. */
  async admit(socket: WebSocket, request: FastifyRequest): Promise<Session | null> {
    socket.on('error', () => socket.terminate());
    // Pages only listen. Whoever says something is no page of ours.
    socket.on('message', () => socket.close(nothingIsExpected, 'nothing is expected here'));
    const session = await this.sessions.find(request);
    const isPerson = session !== null && session.script === undefined;
    if (!isPerson || session.mustSetPassword || isForeign(request)) {
      socket.close(signInFirst, 'sign in first');
      return null;
    }
    const mine = [...this.open].filter((each) => each.session.sessionHash === session.sessionHash);
    if (mine.length >= mostOfSession) {
      socket.close(tryAgainLater, 'too many pages are open');
      return null;
    }
    const opened = { socket, session };
    this.open.add(opened);
    socket.on('close', () => this.open.delete(opened));
    return session;
  }

  private async look(): Promise<void> {
    if (this.open.size === 0) return;
    const looked = [...this.open];
    const now = await this.sessions.rolesOf([...new Set(looked.map(({ session }) => session.sessionHash))]);
    this.closeThose(
      (each) => looked.includes(each) && now.get(each.session.sessionHash) !== each.session.role,
    );
  }

  private closeThose(which: (open: OpenSocket) => boolean): void {
    for (const each of this.open) {
      if (!which(each)) continue;
      this.open.delete(each);
      each.socket.close(signInFirst, 'the sign-in has ended');
      // Nothing more is sent; a page that does not answer the close is let go.
      each.socket.terminate();
    }
  }
}

/** Opens the three sockets: for pages, for pages that play a phone, and for gateways. */
export function registerSockets(
  app: FastifyInstance,
  parts: {
    pageSockets: PageSockets;
    pages: Pages;
    browserPhones: BrowserPhones;
    gateways: Gateways;
    gatewayKey: string;
  },
): void {
  const { pageSockets, pages, browserPhones, gateways } = parts;
  app.register((scope, _options, done) => {
    scope.get('/api/live', { websocket: true }, async (socket, request) => {
      const session = await pageSockets.admit(socket, request);
      if (session !== null) pages.open(socket, session.personId, session.role);
    });
    scope.get('/api/desk/phone-line', { websocket: true }, async (socket, request) => {
      const session = await pageSockets.admit(socket, request);
      if (session !== null) await browserPhones.open(socket, session.personId);
    });
    scope.get('/devices', { websocket: true }, (socket, request) => {
      const sent = Buffer.from(String(request.headers.authorization ?? ''));
      const expected = Buffer.from(`Bearer ${parts.gatewayKey}`);
      if (sent.length !== expected.length || !timingSafeEqual(sent, expected))
        return socket.close(signInFirst, 'wrong key');
      gateways.connect(socket);
    });
    done();
  });
}
