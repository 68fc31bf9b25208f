import type { Database } from '../database/connection.ts';
import type { JobDefinition } from '../jobs/jobs.ts';
import { inThread } from '../jobs/in-thread.ts';
import { savedLists } from './registry.ts';
import { runSave, type SaveInput } from './run-save.ts';

/**
 * A list saved behind the page.
 *
 * @param file of the thread; null does the work here, for tests
 */
export function saveListJob(database: Database, file: URL | null): JobDefinition<SaveInput> {
  const { connectionString: url } = database.client.config.connection as { connectionString: string };
  return {
    title: ({ list, ids }) =>
      `Saving ${ids === null ? '' : `${ids.length.toLocaleString('en')} `}${savedLists[list].name}`,
    total: ({ rows }) => rows,
    whenStopped: 'Stopped. No file was made.',
    run: (input, going) =>
      file === null
        ? runSave(database, going.id, input, (done) => going.at(done))
        : inThread<string>(file, { url, jobId: going.id, input }, going),
  };
}
