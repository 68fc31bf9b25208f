import { randomBytes, timingSafeEqual } from 'node:crypto';
import '@fastify/cookie';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Role } from '@night-bell/core/model/roles';
import type { Database } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';
import type { Caller } from '../http/route.ts';
import type { Seal } from './seal.ts';

export interface Session extends Caller {
  csrf: string;
  mustSetPassword: boolean;
}

const lifetimeHours = 12;
export const tokenHeader = 'x-night-bell-token';

/** Sign-in sessions in PostgreSQL. The cookie holds a random token, the table its keyed hash. */
export class Sessions {
  private readonly database: Database;
  private readonly seal: Seal;
  /** Carries the installation's id, so that several clones on one machine do not sign each other out. */
  readonly cookieName: string;

  constructor(database: Database, seal: Seal, installationId: string) {
    this.database = database;
    this.seal = seal;
    this.cookieName = `night-bell-${installationId.slice(0, 8)}`;
  }

  async begin(reply: FastifyReply, personId: string, mustSetPassword: boolean): Promise<void> {
    const token = randomBytes(32).toString('base64url');
    await this.database('session').insert({
      hash: this.seal.hash(token),
      person_id: personId,
      csrf: randomBytes(24).toString('base64url'),
      must_set_password: mustSetPassword,
      expires_at: this.database.raw(`now() + interval '${lifetimeHours} hours'`),
    });
    reply.setCookie(this.cookieName, token, {
      path: '/',
      httpOnly: true,
      sameSite: 'strict',
      secure: reply.request.protocol === 'https',
      maxAge: lifetimeHours * 3600,
    });
  }

  async find(request: FastifyRequest): Promise<Session | null> {
    const token = request.cookies[this.cookieName];
    if (token === undefined) return null;
    const row = await this.database('session as s')
      .join('person as p', 'p.id', 's.person_id')
      .join('item as i', 'i.id', 'p.id')
      .where('s.hash', this.seal.hash(token))
      .andWhere('s.expires_at', '>', this.database.fn.now())
      .whereNull('i.retired_at')
      .first<
        { hash: string; person_id: string; csrf: string; must_set_password: boolean; role: Role; name: string } | undefined
      >('s.hash', 's.person_id', 's.csrf', 's.must_set_password', 'p.role', 'i.name');
    if (row === undefined) return null;
    return {
      personId: row.person_id,
      name: row.name,
      role: row.role,
      sessionHash: row.hash,
      csrf: row.csrf,
      mustSetPassword: row.must_set_password,
    };
  }

  async end(reply: FastifyReply, hash: string): Promise<void> {
    await this.database('session').where({ hash }).delete();
    reply.clearCookie(this.cookieName, { path: '/' });
  }

  async endAllOf(personId: string, except: string | null = null): Promise<void> {
    await this.database('session')
      .where({ person_id: personId })
      .modify((query) => {
        if (except !== null) void query.whereNot({ hash: except });
      })
      .delete();
  }

  /** Requests that change something carry the session's token in a header that no other site can set. */
  refuseForgery(request: FastifyRequest, session: Session): void {
    const sent = Buffer.from(String(request.headers[tokenHeader] ?? ''));
    const expected = Buffer.from(session.csrf);
    if (sent.length !== expected.length || !timingSafeEqual(sent, expected)) {
      throw new Problem('forgedRequest', 'Send the token of GET /api/session as X-Night-Bell-Token.');
    }
  }

  /** Before there is a session: a browser says where the request comes from, and it must be here. */
  refuseForeignOrigin(request: FastifyRequest): void {
    const origin = request.headers.origin;
    if (origin !== undefined && new URL(origin).host !== request.headers.host) {
      throw new Problem('forgedRequest', 'This request came from another site.');
    }
  }
}
