import '@fastify/cookie';
import { randomBytes, timingSafeEqual } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Database } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';
import type { SecretBox } from './secret-box.ts';

/** After these wrong tries within an hour each wait doubles, up to the longest. */
const freeTries = 5;
const longestWaitSeconds = 900;
/** Strangers' guesses keep the owner of an account out of a browser never used before for no longer than this. */
const strangersWaitSeconds = 300;
const rememberedDays = 400;
const mostBrowsers = 5;

/**
 * Throttles guessing, in the database so that all servers count together. Guesses at an account are counted apart for
 * each browser that has signed in to it before, which shows a signed cookie; all others share one count for each account.
 * So a stranger locks out no owner at their own browser, and one address nobody else behind it.
 */
export class LoginThrottle {
  private readonly database: Database;
  private readonly seal: SecretBox;
  private readonly cookieName: string;

  constructor(database: Database, seal: SecretBox, installationId: string) {
    this.database = database;
    this.seal = seal;
    this.cookieName = `night-bell-seen-${installationId.slice(0, 8)}`;
  }

  /** Under what guesses at this account from this browser are counted. */
  keyOf(request: FastifyRequest, login: string): string {
    const mark = this.marks(request).find((each) => this.isMarkOf(each, login));
    return mark === undefined ? strangers(login) : `login:${login}:browser:${mark.split('.')[0]}`;
  }

  /** This browser has signed in to the account: from now on its guesses are counted by themselves. */
  remember(request: FastifyRequest, reply: FastifyReply, login: string): void {
    const others = this.marks(request).filter((each) => !this.isMarkOf(each, login));
    const nonce = randomBytes(12).toString('base64url');
    const marks = [`${nonce}.${this.sign(nonce, login)}`, ...others].slice(0, mostBrowsers);
    reply.setCookie(this.cookieName, marks.join('~'), {
      path: '/api/session',
      httpOnly: true,
      sameSite: 'strict',
      secure: request.protocol === 'https',
      maxAge: rememberedDays * 24 * 3_600,
    });
  }

  async refuseIfBlocked(key: string): Promise<void> {
    const wait = await this.lockedSeconds(key);
    if (wait > 0)
      throw new Problem('tooMany', `Too many wrong tries. Wait ${wait} s, then try again.`, [], {
        retryAfter: wait,
      });
  }

  /** Seconds until this key may try again; 0 when it may now. */
  async lockedSeconds(key: string): Promise<number> {
    const row = await this.database('sign_in_guess')
      .where({ key })
      .andWhere('blocked_until', '>', this.database.fn.now())
      .first<{ wait: number } | undefined>(
        this.database.raw('ceil(extract(epoch from blocked_until - now()))::int as wait'),
      );
    return row?.wait ?? 0;
  }

  /** The longest anybody is kept out of this account. */
  async lockedAccountSeconds(login: string): Promise<number> {
    const row = await this.database('sign_in_guess')
      .where({ account: login })
      .andWhere('blocked_until', '>', this.database.fn.now())
      .first<{ wait: number | null }>(
        this.database.raw('ceil(extract(epoch from max(blocked_until) - now()))::int as wait'),
      );
    return row.wait ?? 0;
  }

  async wrong(key: string, account: string): Promise<void> {
    const longest = key === strangers(account) ? strangersWaitSeconds : longestWaitSeconds;
    await this.database.raw(
      `insert into sign_in_guess as g (key, account, failures, last_at) values (?, ?, 1, now())
       on conflict (key) do update set
         failures = case when g.last_at < now() - interval '1 hour' then 1 else g.failures + 1 end,
         last_at = now(),
         blocked_until = case when g.failures + 1 > ? and g.last_at > now() - interval '1 hour'
           then now() + least(?, power(2, least(g.failures + 1 - ?, 20))) * interval '1 second' end`,
      [key, account, freeTries, longest, freeTries],
    );
  }

  async right(key: string): Promise<void> {
    await this.database('sign_in_guess').where({ key }).delete();
  }

  /** An administrator lets everybody try again at this account. */
  async unlock(login: string): Promise<void> {
    await this.database('sign_in_guess').where({ account: login }).delete();
  }

  private marks(request: FastifyRequest): string[] {
    return (request.cookies[this.cookieName] ?? '').split('~').slice(0, mostBrowsers);
  }

  private isMarkOf(mark: string, login: string): boolean {
    const [nonce = '', signature = ''] = mark.split('.');
    const sent = Buffer.from(signature);
    const expected = Buffer.from(this.sign(nonce, login));
    return sent.length === expected.length && timingSafeEqual(sent, expected);
  }

  private sign(nonce: string, login: string): string {
    return this.seal.hash(`browser seen before: ${nonce} ${login}`);
  }
}

function strangers(login: string): string {
  return `login:${login}:strangers`;
}
