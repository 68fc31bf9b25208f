/**
 * A hundred thousand contacts: brought with every check beside \copy of the same rows into the same table, and the choice
 * of the next. NIGHT_BELL_BENCH_ROWS sets another count.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { Readable } from 'node:stream';
import { objectSchema } from '@night-bell/core/contracts/item';
import Joi from 'joi';
import { leaseContacts } from '../src/areas/campaigns/contacts.queries.ts';
import { importContactsJob } from '../src/areas/campaigns/import-job.ts';
import { campaignItem } from '../src/areas/campaigns/store.ts';
import { connect } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { Going } from '../src/jobs/jobs.ts';
import { keepUpload } from '../src/jobs/uploads.ts';
import { newId } from '../src/spine/items.ts';

const rows = Number(process.env.NIGHT_BELL_BENCH_ROWS ?? 100_000);
const choices = 2_000;
const runs = rows > 200_000 ? 1 : 3;
const url = process.env.NIGHT_BELL_TEST_DATABASE ?? '';
const database = connect(url);
await migrate(database);
const folder = mkdtempSync(join(tmpdir(), 'night-bell-contacts-'));

/** The twenty area codes, and numbers of each, that there are places for. */
const areaCodes = [
  206, 253, 303, 312, 360, 415, 503, 602, 713, 808, 212, 214, 215, 216, 301, 305, 313, 314, 317, 404,
];
const digits = (i: number) =>
  `${areaCodes[i % 20]!}${String(200 + Math.floor(i / 200_000))}${String(Math.floor(i / 20) % 10_000).padStart(4, '0')}`;
const text = [
  'First name,Surname,Phone,Fare,Sailing',
  ...Array.from({ length: rows }, (_, i) => `Pat,Contact ${i},+1${digits(i)},${i % 90}.50,Evening ${i % 30}`),
].join('\n');

const draft = (name: string) => Joi.attempt({ name }, objectSchema(campaignItem.contract.draft));
async function newCampaign(name: string): Promise<string> {
  const author = { personId: null, batch: newId() };
  const id = await database.transaction((trx) => campaignItem.create(trx, draft(name), author));
  // Round the clock, so that the figure does not hang on the hour of the run.
  await database('campaign').where({ id }).update({ hours_from: 0, hours_to: 1_440 });
  return id;
}
const timed = async (work: () => unknown): Promise<number> => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};
const median = (values: number[]) => [...values].sort((one, other) => one - other)[values.length >> 1]!;
const thread = new URL('../dist/import.mjs', import.meta.url);

const imports: number[] = [];
const copies: number[] = [];
let stopped = 0;
let usual = 0;
let campaignId = '';
let most = 0;
const file = join(folder, 'contacts.tsv');
for (let run = 0; run < runs; run++) {
  campaignId = await newCampaign(`Bench ${run}`);
  const { id: uploadId, lines } = await keepUpload(database, Readable.from(inParts(text)), 2 ** 30);
  const definition = importContactsJob(database, thread);
  const jobId = newId();
  const input = { campaignId, mapping: null, uploadId, rows: lines - 1 };
  await database('job').insert({
    ...{ id: jobId, kind: 'importContacts', title: '', state: 'running', input: JSON.stringify(input) },
  });
  const before = process.memoryUsage().rss;
  const looking = setInterval(() => (most = Math.max(most, process.memoryUsage().rss - before)), 50);
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  const going = new Going(jobId, { personId: null, batch: '' }, () => Promise.resolve(true));
  imports.push(await timed(() => definition.run(input, going)));
  delay.disable();
  [stopped, usual] = [Math.max(stopped, delay.max), Math.max(usual, delay.percentile(99))];
  clearInterval(looking);
  // The same rows, as they were kept, into the same table with its indexes, key and checks.
  const columns = 'id, campaign_id, position, e164, name, fields, zones, state, due_at';
  const psql = (command: string) => execFileSync('psql', [url, '-q', '-c', command]);
  psql(
    `\\copy (select ${columns} from contact where campaign_id = '${campaignId}' order by position) to '${file}'`,
  );
  psql(`delete from contact where campaign_id = '${campaignId}'`);
  psql('vacuum contact');
  copies.push(await timed(() => psql(`\\copy contact (${columns}) from '${file}'`)));
}
const perSecond = (seconds: number) => Math.round(rows / seconds).toLocaleString('en');
console.log(
  `  a list of ${rows.toLocaleString('en')} rows read, checked and kept: ${perSecond(median(imports))} rows/s; \\copy of the same rows into the same table: ${perSecond(median(copies))} rows/s, ratio ${(median(imports) / median(copies)).toFixed(2)} (target: at most 1.6)`,
);
console.log(
  `  meanwhile the server's loop stopped for at most ${Math.round(stopped / 1e6)} ms, p99 ${Math.round(usual / 1e6)} ms; ${Math.round(most / 2 ** 20)} MB more memory at the most`,
);

await database.raw('analyze contact');
const at = (values: number[], share: number) =>
  [...values].sort((one, other) => one - other)[Math.floor(values.length * share)]!;
const nothing: number[] = [];
const chosen: number[] = [];
for (let i = 0; i < choices; i++) {
  nothing.push((await timed(() => database.raw('select 1'))) * 1000);
  chosen.push(
    (await timed(async () => {
      const { contacts } = await leaseContacts(database, campaignId, 1);
      if (contacts.length !== 1) throw new Error('Nobody was due: the figure would say nothing.');
    })) * 1000,
  );
}
console.log(
  `  next contact of ${rows.toLocaleString('en')}: median ${at(chosen, 0.5).toFixed(2)} ms, p95 ${at(chosen, 0.95).toFixed(2)} ms (target: at most 5 ms), ratio of medians ${(at(chosen, 0.5) / at(nothing, 0.5)).toFixed(1)}; ` +
    `an empty query: p95 ${at(nothing, 0.95).toFixed(2)} ms`,
);
await database.destroy();
rmSync(folder, { recursive: true, force: true });

function* inParts(whole: string): Generator<Buffer> {
  for (let i = 0; i < whole.length; i += 60_000) yield Buffer.from(whole.slice(i, i + 60_000));
}
