import type { Knex } from 'knex';
import { Problem } from '../http/problems.ts';
import { newId } from '../spine/items.ts';
import { counted } from '../jobs/counted.ts';
import { savedLists, type ListName } from './registry.ts';
import { writeCards } from './cards.ts';
import { type FileKind, mostRowsOfSheet, writeList } from './write-file.ts';

export interface SaveInput {
  list: ListName;
  as: FileKind | 'vcf';
  query: Record<string, unknown>;
  /** Only those, in this order; null for all that fit. */
  ids: string[] | null;
  /** How many rows there are about; null where that is not known. */
  rows: number | null;
}

const partBytes = 512 * 1024;

/**
 * Writes the list into a file of the installation, which the job then has. A fault or a stop leaves no file.
 *
 * @param tell how many rows were written; throws when it is to stop
 */
export async function runSave(
  database: Knex,
  jobId: string,
  { list, as, query: asked, ids }: SaveInput,
  tell: (done: number) => Promise<void>,
): Promise<string> {
  const saved = savedLists[list];
  const query = saved.query.validate(asked).value as Record<string, unknown>;
  let done = 0;
  async function* told(): AsyncGenerator<Record<string, unknown>[]> {
    for await (const some of saved.rows(database, query, ids)) {
      yield some;
      done += some.length;
      await tell(done);
      if (as === 'xlsx' && done > mostRowsOfSheet)
        throw new Problem(
          'notNow',
          `A sheet holds at most ${mostRowsOfSheet.toLocaleString('en')} rows. Save it as CSV, or narrow the list.`,
        );
    }
  }
  const file =
    as === 'vcf' ? writeCards(database, told()) : writeList(as, await saved.columns(database, query), told());
  await database.transaction(async (trx) => {
    const id = newId();
    await trx('upload').insert({ id });
    let part = 0;
    for await (const bytes of file)
      for (let from = 0; from < bytes.length; from += partBytes)
        await trx('upload_part').insert({
          ...{ upload_id: id, part: part++ },
          bytes: bytes.subarray(from, from + partBytes),
        });
    await trx('job')
      .where({ id: jobId })
      .update({ file_id: id, file_name: `${saved.name}.${as}` });
  });
  return `${counted(done, 'row is', 'rows are')} saved.`;
}
