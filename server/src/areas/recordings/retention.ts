import type { Database } from '../../database/connection.ts';
import type { RecordingFiles } from './files.ts';

const atOnce = 200;

/**
 * What is older than the company keeps: first the files, then what is known of them, so that a stop in between leaves no
 * file that nobody knows of. That a talk was recorded, and for how long, stays in the call's story.
 */
export async function forgetOldTalks(database: Database, files: RecordingFiles | null): Promise<number> {
  let all = 0;
  for (;;) {
    const { rows } = await database.raw<{ rows: { call_id: string; part: number; file: string | null }[] }>(
      `select call_id, part, s.file from recording r full join recording_sound s using (call_id, part)
       where coalesce(r.at, s.at) < now() - make_interval(days => (select recording_days from installation))
       limit ?`,
      [atOnce],
    );
    for (const { file } of rows) if (file !== null) await files?.remove(file);
    const calls = rows.map(({ call_id }) => call_id);
    const parts = rows.map(({ part }) => part);
    for (const table of ['recording', 'recording_sound', 'recording_hearing'])
      await database.raw(
        `delete from ${table} where (call_id, part) in (select * from unnest(?::uuid[], ?::int[]))`,
        [calls, parts],
      );
    all += rows.length;
    if (rows.length < atOnce) return all;
  }
}
