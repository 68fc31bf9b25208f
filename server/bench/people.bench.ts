/** Two thousand people from a list, with login, extension, phone and voicemail, beside bare inserts of as many rows. */
import { randomBytes } from 'node:crypto';
import { performance } from 'node:perf_hooks';
import { createList } from '../src/areas/people/list.ts';
import { connect } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { SecretBox } from '../src/security/secret-box.ts';
import { authorOf } from '../src/spine/items.ts';

const count = 2_000;
const database = connect(process.env.NIGHT_BELL_TEST_DATABASE ?? '');
await migrate(database);
const seal = new SecretBox(randomBytes(32));
const rows = Array.from({ length: count }, (_, i) => ({
  name: `Person ${i}`,
  team: `Team ${i % 40}`,
  role: '',
  login: '',
  extension: '',
  phone: '',
  mail: '',
}));
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};
const seconds = await timed(() => database.transaction((trx) => createList(trx, seal, rows, authorOf(null))));
await database.raw('create table plain (id serial, name text)');
const bare = await timed(() =>
  database.transaction(async (trx) => {
    for (const { name } of rows) await trx('plain').insert({ name });
  }),
);
console.log(
  `  ${count.toLocaleString('en')} people made: ${seconds.toFixed(1)} s (target: at most 10 s); as many bare inserts: ${bare.toFixed(2)} s, ratio ${(seconds / bare).toFixed(1)}`,
);
await database.destroy();
