import { randomBytes, timingSafeEqual } from 'node:crypto';
import '@fastify/cookie';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Role } from '@night-bell/core/model/roles';
import type { Database } from '../database/connection.ts';
import { isForeign } from '../http/origin.ts';
import { Problem } from '../http/problems.ts';
import type { Caller } from '../http/route.ts';
import { findScript, secretIn } from './script-callers.ts';
import type { SecretBox } from './secret-box.ts';

export interface Session extends Caller {
  csrf: string;
  mustSetPassword: boolean;
}

interface SessionRow {
  hash: string;
  person_id: string;
  csrf: string;
  must_set_password: boolean;
  role: Role;
  name: string;
}

const findSession = `
  select s.hash, s.person_id, s.csrf, s.must_set_password, p.role, i.name
  from session s join person p on p.id = s.person_id join item i on i.id = p.id
  where s.hash = ? and s.expires_at > now() and i.retired_at is null`;

export interface SignInPlace {
  since: string;
  seenAt: string;
  address: string;
  browser: string;
}

/** A browser and system as people call them; empty for what is none. */
export function browserWords(agent: string): string {
  const browser = /(Edg|OPR|Firefox|Chrome|Safari)\/(\d+)/.exec(
    agent.replace(/.*(Edg|OPR|Firefox)\//, '$1/'),
  );
  const system = /(Windows|Mac OS X|Android|iPhone|iPad|Linux)/.exec(agent)?.[1];
  if (browser === null) return '';
  const names: Record<string, string> = { Edg: 'Edge', OPR: 'Opera' };
  const name = `${names[browser[1]!] ?? browser[1]!} ${browser[2]!}`;
  return system === undefined ? name : `${name} on ${system.replace('Mac OS X', 'macOS')}`;
}

/** How long a session is taken for good without asking the database: ending one on another server takes this long. */
const knownMs = 1_000;
const mostKnown = 10_000;
const lifetimeHours = 12;
export const tokenHeader = 'x-night-bell-token';

/** Sign-in sessions in PostgreSQL. The cookie holds a random token, the table its keyed hash. */
export class Sessions {
  private readonly database: Database;
  private readonly seal: SecretBox;
  /** Carries the installation's id, so that several clones on one machine do not sign each other out. */
  readonly cookieName: string;
  private readonly endings = new Set<(gone: (session: Session) => boolean) => void>();
  private readonly known = new Map<string, { session: Session; until: number }>();

  constructor(database: Database, seal: SecretBox, installationId: string) {
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
      address: reply.request.ip,
      browser: browserWords(String(reply.request.headers['user-agent'] ?? '')),
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

  /** Who sent a request: a person by their cookie, or a script by its key. */
  async find(request: FastifyRequest): Promise<Session | null> {
    const secret = secretIn(request);
    const token = secret ?? request.cookies[this.cookieName];
    if (token === undefined) return null;
    const hash = this.seal.hash(token);
    const known = this.known.get(hash);
    if (known !== undefined && known.until > Date.now()) return known.session;
    const session = secret === null ? await this.signedIn(hash) : await this.script(hash);
    if (this.known.size > mostKnown) this.known.clear();
    if (session === null) this.known.delete(hash);
    else this.known.set(hash, { session, until: Date.now() + knownMs });
    return session;
  }

  private async signedIn(hash: string): Promise<Session | null> {
    const session = await this.read(hash);
    if (session !== null) await this.seen(hash);
    return session;
  }

  private async script(hash: string): Promise<Session | null> {
    const script = await findScript(this.database, hash);
    if (script === null) return null;
    const { personId, name, role, keyId } = script;
    return { personId, name, role, sessionHash: `script ${keyId}`, csrf: '', mustSetPassword: false, script };
  }

  /** Where a person is signed in, latest first; without the one of this hash. */
  async of(personId: string, except: string | null = null): Promise<SignInPlace[]> {
    const rows = await this.database('session')
      .where({ person_id: personId })
      .andWhere('expires_at', '>', this.database.fn.now())
      .modify((query) => {
        if (except !== null) void query.whereNot({ hash: except });
      })
      .orderBy('seen_at', 'desc')
      .select<{ created_at: Date; seen_at: Date; address: string; browser: string }[]>(
        'created_at',
        'seen_at',
        'address',
        'browser',
      );
    return rows.map(({ created_at, seen_at, address, browser }) => ({
      since: created_at.toISOString(),
      seenAt: seen_at.toISOString(),
      address,
      browser,
    }));
  }

  private async seen(hash: string): Promise<void> {
    await this.database('session')
      .where({ hash })
      .andWhereRaw(`seen_at < now() - interval '1 minute'`)
      .update({ seen_at: this.database.fn.now() });
  }

  private async read(hash: string): Promise<Session | null> {
    const { rows } = await this.database.raw<{ rows: SessionRow[] }>(findSession, [hash]);
    const row = rows[0];
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

  /** Calls `heard` with which sign-ins ended on this server; returns how to stop. */
  onEnded(heard: (gone: (session: Session) => boolean) => void): () => void {
    this.endings.add(heard);
    return () => void this.endings.delete(heard);
  }

  /** The role behind each of these sign-ins as it is now; those that have ended are missing. */
  async rolesOf(hashes: string[]): Promise<Map<string, Role>> {
    const rows = await this.database('session as s')
      .join('person as p', 'p.id', 's.person_id')
      .join('item as i', 'i.id', 'p.id')
      .whereRaw('s.hash = any(?)', [hashes])
      .andWhere('s.expires_at', '>', this.database.fn.now())
      .whereNull('i.retired_at')
      .select<{ hash: string; role: Role }[]>('s.hash', 'p.role');
    return new Map(rows.map(({ hash, role }) => [hash, role]));
  }

  async end(reply: FastifyReply, hash: string): Promise<void> {
    await this.database('session').where({ hash }).delete();
    this.known.delete(hash);
    for (const heard of this.endings) heard((session) => session.sessionHash === hash);
    reply.clearCookie(this.cookieName, { path: '/' });
  }

  async endAllOf(personId: string): Promise<void> {
    await this.database('session').where({ person_id: personId }).delete();
    for (const [hash, { session }] of this.known) if (session.personId === personId) this.known.delete(hash);
    for (const heard of this.endings) heard((session) => session.personId === personId);
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
    if (isForeign(request)) {
      throw new Problem('forgedRequest', 'This request came from another site.');
    }
  }
}
