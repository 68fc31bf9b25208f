import { createHash } from 'node:crypto';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Knex } from 'knex';
import type { Database } from '../database/connection.ts';
import type { SecretBox } from '../security/secret-box.ts';
import { JsonText } from './json-text.ts';
import { Problem } from './problems.ts';
import type { Caller } from './route.ts';

export const replayHeader = 'idempotency-key';
const longestKey = 255;
const keptHours = 24;

interface Row {
  fingerprint: string;
  answer: string | null;
}

/**
 * A request that makes something may bear a key (IETF draft "The Idempotency-Key HTTP Header Field"): sent again with the
 * same key, nothing is made twice, and the answer is the first one's.
 */
export class Replays {
  private readonly database: Database;
  private readonly seal: SecretBox;

  constructor(database: Database, seal: SecretBox) {
    this.database = database;
    this.seal = seal;
  }

  /** Does the work, unless a request with this key was answered before; one that fails may be sent again. */
  async once(
    request: FastifyRequest,
    reply: FastifyReply,
    caller: Caller | null,
    work: () => Promise<unknown>,
  ): Promise<unknown> {
    const key = request.headers[replayHeader];
    if (request.method !== 'POST' || typeof key !== 'string' || caller === null) return work();
    if (key.length === 0 || key.length > longestKey)
      throw Problem.field('/', `An idempotency key has 1 to ${longestKey} characters.`);
    const mine = { caller: callerOf(caller), key };
    const fingerprint = fingerprintOf(request);
    const begun = await this.database('replay')
      .insert({ ...mine, fingerprint })
      .onConflict(['caller', 'key'])
      .ignore()
      .returning('key');
    if (begun.length === 0) return this.again(reply, mine, fingerprint);
    const answer = await work().catch(async (error: unknown) => {
      await this.database('replay').where(mine).delete();
      throw error;
    });
    // What was done stays done: a key whose answer cannot be kept must not be free for doing it again.
    await this.database('replay')
      .where(mine)
      .update({ answer: this.sealed(answer) });
    return answer;
  }

  private async again(
    reply: FastifyReply,
    mine: { caller: string; key: string },
    fingerprint: string,
  ): Promise<unknown> {
    const row = await this.database('replay').where(mine).first<Row | undefined>('fingerprint', 'answer');
    if (row !== undefined && row.fingerprint !== fingerprint)
      throw Problem.field('/', 'This idempotency key was used for another request. Take a new one.');
    if (row?.answer == null)
      throw new Problem(
        'notNow',
        'The first request with this key is not answered yet. Wait, or look whether it was carried out before you take a new key.',
      );
    void reply.header('idempotency-replayed', 'true');
    const text = this.seal.open(row.answer);
    return text === 'null' ? null : new JsonText(text);
  }

  private sealed(answer: unknown): string {
    const text = answer instanceof JsonText ? answer.text : JSON.stringify(answer ?? null);
    return this.seal.seal(text);
  }
}

const callerOf = ({ personId, sessionHash }: Caller) =>
  sessionHash.startsWith('script ') ? sessionHash : `person ${personId}`;

function fingerprintOf({ method, url, body }: FastifyRequest): string {
  return createHash('sha256')
    .update(`${method} ${url}\n${JSON.stringify(body ?? null)}`)
    .digest('base64url');
}

export async function forgetOldReplays(database: Knex): Promise<void> {
  await database('replay').whereRaw('at < now() - make_interval(hours => ?)', [keptHours]).delete();
}
