import type { Readable } from 'node:stream';
import type { Knex } from 'knex';
import type pg from 'pg';
import { Problem } from '../http/problems.ts';
import { newId } from '../spine/items.ts';

const lineEnd = 10;
const partBytes = 512 * 1024;
const keptDays = 1;

/**
 * Keeps a file for a job, part by part as it comes in; nothing of it when it is too long or breaks off. Gives its name and
 * how many lines it has.
 */
export async function keepUpload(
  database: Knex,
  file: Readable,
  mostBytes: number,
): Promise<{ id: string; lines: number }> {
  const id = newId();
  let lines = 0;
  let last = 0;
  await database.transaction(async (trx) => {
    await trx('upload').insert({ id });
    let held: Buffer[] = [];
    let size = 0;
    let all = 0;
    let part = 0;
    const keep = async () => {
      await trx('upload_part').insert({ upload_id: id, part: part++, bytes: Buffer.concat(held) });
      [held, size] = [[], 0];
    };
    for await (const chunk of file as AsyncIterable<Buffer>) {
      held.push(chunk);
      for (const byte of chunk) if (byte === lineEnd) lines++;
      last = chunk.at(-1) ?? last;
      size += chunk.length;
      all += chunk.length;
      if (all > mostBytes)
        throw Problem.field(
          '/',
          `A file of at most ${Math.floor(mostBytes / 1024 / 1024)} MB is taken at once.`,
        );
      if (size >= partBytes) await keep();
    }
    if (all === 0) throw Problem.field('/', 'The file is empty.');
    if (size > 0) await keep();
  });
  return { id, lines: last === lineEnd ? lines : lines + 1 };
}

/** The parts of a file, one after the other. */
export async function* uploadParts(client: pg.ClientBase, id: string): AsyncGenerator<Buffer> {
  for (let part = 0; ; part++) {
    const { rows } = await client.query<{ bytes: Buffer }>(
      'select bytes from upload_part where upload_id = $1 and part = $2',
      [id, part],
    );
    if (rows[0] === undefined) return;
    yield rows[0].bytes;
  }
}

/** The same by the pool, part by part: no connection is held while whoever reads is slow. */
export async function* uploadPartsOf(database: Knex, id: string): AsyncGenerator<Buffer> {
  for (let part = 0; ; part++) {
    const row = await database('upload_part')
      .where({ upload_id: id, part })
      .first<{ bytes: Buffer } | undefined>('bytes');
    if (row === undefined) return;
    yield row.bytes;
  }
}

/** Those that no job took, and files that were made a day ago. */
export async function deleteOldUploads(database: Knex): Promise<void> {
  await database('upload').whereRaw('at < now() - make_interval(days => ?)', [keptDays]).delete();
}
