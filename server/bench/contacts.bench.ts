/** A hundred thousand contacts: import with every check beside \copy of the same file, and the choice of the next. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { type CampaignDraft, campaignDraft } from '@night-bell/core/model/campaigns.schema';
import Joi from 'joi';
import { leaseContacts } from '../src/areas/campaigns/contacts.queries.ts';
import { importContacts } from '../src/areas/campaigns/import.ts';
import { createCampaign } from '../src/areas/campaigns/store.ts';
import { connect } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { newId } from '../src/spine/items.ts';

const rows = 100_000;
const choices = 2_000;
const url = process.env.NIGHT_BELL_TEST_DATABASE ?? '';
const database = connect(url);
await migrate(database);
const folder = mkdtempSync(join(tmpdir(), 'night-bell-contacts-'));

const areaCodes = [206, 253, 303, 312, 360, 415, 503, 602, 713, 808];
const digits = (i: number) => `${areaCodes[i % 10]!}555${String(Math.floor(i / 10)).padStart(4, '0')}`;
const text = [
  'First name,Surname,Phone,Fare,Sailing',
  ...Array.from({ length: rows }, (_, i) => `Pat,Contact ${i},+1${digits(i)},${i % 90}.50,Evening ${i % 30}`),
].join('\n');
const file = join(folder, 'contacts.csv');
writeFileSync(file, `${text}\n`);

const draft = Joi.attempt({ name: 'Bench' }, campaignDraft) as CampaignDraft;
const campaignId = await database.transaction((trx) =>
  createCampaign(trx, draft, { personId: null, batch: newId() }),
);
// Round the clock, so that the figure does not hang on the hour of the run.
await database('campaign').update({ hours_from: 0, hours_to: 1_440 });

await database.raw(
  'create table copied (first_name text, surname text, phone text, fare text, sailing text)',
);
const timed = async (work: () => unknown): Promise<number> => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};
const copySeconds = await timed(() =>
  execFileSync('psql', [url, '-q', '-c', `\\copy copied from '${file}' with (format csv, header)`]),
);
const delay = monitorEventLoopDelay({ resolution: 5 });
delay.enable();
const importSeconds = await timed(() =>
  database.transaction((trx) => importContacts(trx, campaignId, text, null)),
);
delay.disable();
const [{ count }] = (await database('contact').where({ campaign_id: campaignId }).count()) as [
  { count: string },
];
const perSecond = (seconds: number) => Math.round(rows / seconds).toLocaleString('en');
console.log(`  import with checks: ${count} rows, ${perSecond(importSeconds)} rows/s`);
console.log(
  `  \\copy of the same file: ${perSecond(copySeconds)} rows/s, ratio ${(importSeconds / copySeconds).toFixed(1)}`,
);
console.log(
  `  longest stretch the import kept the server from other work: ${Math.round(delay.max / 1e6)} ms`,
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
