import type { WebSocket } from 'ws';
import type { Logger } from 'pino';
import type { Database } from '../database/connection.ts';
import type { Live } from './live.ts';

const seenEvery = 3_000;
/** A page that is loaded again has this long until its phone counts as gone. */
const graceSeconds = 12;
const closedGraceSeconds = 7;

/**
 * Phones played by people's own pages. Each server says in the database which pages it holds; the host takes the phone
 * of a page that nobody holds any more out of service, and ends what it carried.
 */
export class BrowserPhones {
  private readonly database: Database;
  private readonly live: Live;
  private readonly logger: Logger;
  private readonly held = new Map<string, Set<WebSocket>>();
  private readonly timer: NodeJS.Timeout;

  constructor(database: Database, live: Live, logger: Logger) {
    this.database = database;
    this.live = live;
    this.logger = logger;
    this.timer = setInterval(() => void this.tick(), seenEvery);
  }

  close(): void {
    clearInterval(this.timer);
    for (const sockets of this.held.values()) for (const socket of sockets) socket.close(1001, 'going away');
  }

  /** A page of this person is there to play their phone, when they have one of that kind. */
  async open(socket: WebSocket, personId: string): Promise<void> {
    const phone = await this.database('phone as f')
      .join('item as i', 'i.id', 'f.id')
      .where({ 'f.person_id': personId, 'f.kind': 'browser' })
      .whereNull('i.retired_at')
      .first<{ id: string } | undefined>('f.id');
    if (phone === undefined) return socket.close(4404, 'no phone of this kind');
    const sockets = this.held.get(phone.id) ?? new Set();
    sockets.add(socket);
    this.held.set(phone.id, sockets);
    socket.on('close', () => {
      sockets.delete(socket);
      if (sockets.size > 0) return;
      this.held.delete(phone.id);
      void this.seen([phone.id], graceSeconds - closedGraceSeconds).catch(() => undefined);
    });
    await this.seen([phone.id], 0);
    await this.live
      .command({ kind: 'phoneRegistered', phoneId: phone.id, address: 'own page' }, personId)
      .catch((error: unknown) =>
        this.logger.warn({ error: String(error) }, 'a page could not become a phone'),
      );
  }

  private async seen(phoneIds: string[], agoSeconds: number): Promise<void> {
    if (phoneIds.length === 0) return;
    const seen_at = this.database.raw('now() - make_interval(secs => ?)', [agoSeconds]);
    await this.database('browser_phone')
      .insert(phoneIds.map((phone_id) => ({ phone_id, seen_at })))
      .onConflict('phone_id')
      .merge();
  }

  private async tick(): Promise<void> {
    try {
      await this.seen([...this.held.keys()], 0);
      if (this.live.isHost) await this.giveUpOnAbsent();
    } catch (error) {
      this.logger.warn({ error: String(error) }, 'pages that play phones could not be looked after');
    }
  }

  private async giveUpOnAbsent(): Promise<void> {
    const state = this.live.exchange.view();
    const registered = [...state.phones.values()].filter(
      (phone) => phone.item.kind === 'browser' && phone.registration === 'registered',
    );
    if (registered.length === 0) return;
    const present = new Set<string>(
      await this.database('browser_phone')
        .whereRaw('seen_at > now() - make_interval(secs => ?)', [graceSeconds])
        .pluck('phone_id'),
    );
    for (const { item } of registered) {
      if (present.has(item.id)) continue;
      this.live.submit({ kind: 'phoneUnregistered', phoneId: item.id, why: 'the page was closed' });
      for (const call of [...state.calls.values()]) {
        const leg = call.legs.find((each) => each.phoneId === item.id);
        if (leg === undefined) continue;
        if (leg.state === 'ringing')
          this.live.submit({ kind: 'legFailed', leg: leg.id, cause: 'unreachable' });
        else this.live.submit({ kind: 'legEnded', leg: leg.id });
      }
    }
  }
}
