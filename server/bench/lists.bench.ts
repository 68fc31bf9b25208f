/** Lists of 100,000 over HTTP, beside a primary-key read over the same connection: first page, deep pages, searches, narrowings. */
import { Worker } from 'node:worker_threads';
import { at, openCompany } from './company.ts';

const count = 100_000;
const rounds = 60;
const { database, address, headers, close } = await openCompany();

await seed();
const team = (await database('item').where({ name: 'List team 7' }).first<{ id: string }>('id')).id;
const queue = (await database('item').where({ kind: 'queue' }).orderBy('name').first<{ id: string }>('id'))
  .id;
await database('queue_member').insert({ queue_id: queue, member_id: team, position: 900 });
const person = (await database('person').orderBy('id', 'desc').first<{ id: string }>('id')).id;

const urls: Record<string, string | string[]> = {
  'a primary-key read (one entry of the directory)': `/api/directory?ids=${person}`,
  'people: first page': '/api/people?limit=100',
  'people: first page, by name': '/api/people?limit=100&sort=name',
  'people: page 300, by name': await deep('/api/people?limit=100&sort=name', 300),
  'people: by team': '/api/people?limit=100&sort=team',
  'people: search, two letters': ['ma', 'so', 'ka', 'el'].map(
    (word) => `/api/people?limit=100&search=${word}`,
  ),
  'people: search, a name': ['mara quay', 'otto l', 'ines fe'].map(
    (words) => `/api/people?limit=100&search=${encodeURIComponent(words)}`,
  ),
  'people: one team': `/api/people?limit=100&teamId=${team}`,
  'people: one queue': `/api/people?limit=100&queueId=${queue}`,
  'people: how many': '/api/people?limit=1&total=true',
  'numbers: first page': '/api/numbers?limit=100&sort=number',
  'numbers: search by last digits': ['0142', '5550', '777'].map(
    (digits) => `/api/numbers?limit=100&search=${digits}`,
  ),
  'records: first page': '/api/records?limit=100',
  'records: search': ['mara', 'quay', 'otto'].map((word) => `/api/records?limit=100&search=${word}`),
  'contacts: first page': `/api/campaigns/${await campaign()}/contacts?limit=100`,
  'calls: first page': '/api/calls?limit=100&totals=false',
  'calls: their totals': '/api/calls?limit=1',
  'opt-outs: first page': '/api/opt-outs?limit=100',
  'changes: first page': '/api/changes?limit=100',
  'directory: search over all kinds': ['ma', 'quay', '2064'].map((word) => `/api/directory?search=${word}`),
};
const times = await new Promise<Record<string, number[]>>((resolve, reject) => {
  const worker = new Worker(new URL('./lists-client.mjs', import.meta.url), {
    workerData: { address, headers, rounds, urls },
  });
  worker.once('message', resolve).once('error', reject);
});
const baseline = at(Object.values(times)[0]!, 0.95);
for (const [name, all] of Object.entries(times))
  console.log(
    `  ${name}: ${at(all, 0.5).toFixed(1)} ms at the median, ${at(all, 0.95).toFixed(1)} at p95, ${(at(all, 0.95) / baseline).toFixed(1)} times the primary-key read`,
  );
const sizes = await database.raw<{ rows: { table: string; index: string }[] }>(
  `select pg_size_pretty(pg_table_size('listed')) as table, pg_size_pretty(pg_indexes_size('listed')) as index`,
);
console.log(`  the narrow list table: ${sizes.rows[0]!.table}, its indexes ${sizes.rows[0]!.index}`);
await close();

/** Follows the links of a list to its n-th stretch. */
async function deep(first: string, pages: number): Promise<string> {
  let url = first;
  for (let page = 1; page < pages; page++) {
    const response = await fetch(address + url, { headers });
    await response.arrayBuffer();
    url = /^<([^>]+)>/.exec(response.headers.get('link') ?? '')![1]!;
  }
  return url;
}

async function campaign(): Promise<string> {
  const { id } = await database('contact')
    .select('campaign_id as id')
    .groupBy('campaign_id')
    .orderByRaw('count(*) desc')
    .first<{ id: string }>();
  return id;
}

async function seed(): Promise<void> {
  const first = `(array['Mara','Otto','Ines','Karim','Sofia','Elle','Noor','Tomas','Yara','Finn'])[1 + n % 10]`;
  const last = `(array['Quay','Lund','Ferro','Strand','Okafor','Berg','Tully','Vance','Adan','Reyl','Holm'])[1 + n % 11]`;
  await database.transaction(async (trx) => {
    await trx.raw(`
      create temporary table fresh on commit drop as
        select n, gen_random_uuid() as id, gen_random_uuid() as number_id, gen_random_uuid() as record_id
        from generate_series(0, ${count - 1}) n;
      create temporary table fresh_team on commit drop as
        select n, gen_random_uuid() as id from generate_series(0, 199) n;
      insert into item (id, kind, name) select id, 'team', 'List team ' || n from fresh_team;
      insert into team (id) select id from fresh_team;
      insert into item (id, kind, name) select id, 'person', ${first} || ' ' || ${last} || ' ' || n from fresh;
      insert into person (id, login, role, team_id)
        select f.id, 'list.' || f.n, 'agent', t.id from fresh f join fresh_team t on t.n = f.n % 200;
      insert into extension (digits, item_id) select (300000 + n)::text, id from fresh;
      insert into item (id, kind, name) select number_id, 'number', 'Advert ' || n from fresh;
      insert into number (id, e164) select number_id, '+1206' || lpad((4000000 + n)::text, 7, '0') from fresh;
      insert into record (id, connection_id, external_id, name, fields)
        select record_id, (select id from connection limit 1), 'list-' || n, ${first} || ' ' || ${last} || ' ' || n, '{}' from fresh;
      insert into record_number (record_id, e164)
        select record_id, '+1425' || lpad((4000000 + n)::text, 7, '0') from fresh;
      insert into contact (id, campaign_id, position, e164, name, fields, zones, state)
        select gen_random_uuid(), (select id from campaign limit 1), 10000 + n, '+1503' || lpad((4000000 + n)::text, 7, '0'),
          ${first} || ' ' || n, '{}', '{}', 'unreached' from fresh;
      insert into opt_out (e164, how) select '+1604' || lpad((4000000 + n)::text, 7, '0'), 'list' from fresh;
      insert into call (id, direction, dialled, caller, arrived_at, ended_at, result, ended_by, waited_ms, talked_ms, offers, stand_in, story)
        select gen_random_uuid(), 'inbound', '+12065550140', '+13605550117', now() - n * interval '1 second', now() - n * interval '1 second',
          'answered', 'caller', 1, 1, 1, false, '[]' from fresh;`);
  });
  await database.raw('analyze');
}
