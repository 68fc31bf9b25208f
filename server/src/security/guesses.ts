import type { Database } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';

/**
 * Wrong tries that are free; after them each wait doubles, up to a quarter of an hour. An address has more: a whole
 * office may share it, and one forgetful colleague must not keep the others out.
 */
const freeTries = (key: string) => (key.startsWith('address:') ? 40 : 5);
const longestWaitSeconds = 900;

/** Throttles guessing, by login and by address, in the database so that all servers count together. */
export class Guesses {
  private readonly database: Database;

  constructor(database: Database) {
    this.database = database;
  }

  async refuseIfBlocked(keys: string[]): Promise<void> {
    const rows = await this.database('sign_in_guess')
      .whereIn('key', keys)
      .andWhere('blocked_until', '>', this.database.fn.now())
      .select<{ wait: number }[]>(
        this.database.raw('ceil(extract(epoch from blocked_until - now()))::int as wait'),
      );
    const wait = Math.max(0, ...rows.map((row) => row.wait));
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

  async wrong(keys: string[]): Promise<void> {
    for (const key of keys) {
      await this.database.raw(
        `insert into sign_in_guess as g (key, failures, last_at) values (?, 1, now())
         on conflict (key) do update set
           failures = case when g.last_at < now() - interval '1 hour' then 1 else g.failures + 1 end,
           last_at = now(),
           blocked_until = case when g.failures + 1 > ? and g.last_at > now() - interval '1 hour'
             then now() + least(?, power(2, least(g.failures + 1 - ?, 20))) * interval '1 second' end`,
        [key, freeTries(key), longestWaitSeconds, freeTries(key)],
      );
    }
  }

  async right(keys: string[]): Promise<void> {
    await this.database('sign_in_guess').whereIn('key', keys).delete();
  }
}
