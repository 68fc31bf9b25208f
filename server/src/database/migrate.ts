import type { Knex } from 'knex';
import { BrokenInstallation } from '../settings.ts';
import type { Database } from './connection.ts';
import { up as foundation } from './migrations/0001-foundation.ts';
import { up as exchange } from './migrations/0002-exchange.ts';
import { up as wholeBell } from './migrations/0003-whole-bell.ts';
import { up as agents } from './migrations/0004-agents.ts';
import { up as phones } from './migrations/0005-phones.ts';
import { up as linesOut } from './migrations/0006-lines-out.ts';
import { up as numbers } from './migrations/0007-numbers.ts';
import { up as destinations } from './migrations/0008-destinations.ts';
import { up as lineKeys } from './migrations/0009-line-keys.ts';
import { up as whenNobodyLifts } from './migrations/0010-when-nobody-lifts.ts';
import { up as texts } from './migrations/0011-texts.ts';
import { up as wayOutOfAPhone } from './migrations/0012-way-out-of-a-phone.ts';
import { up as setAside } from './migrations/0013-set-aside.ts';
import { up as hosting } from './migrations/0014-hosting.ts';
import { up as guards } from './migrations/0015-guards.ts';
import { up as tradeWords } from './migrations/0016-trade-words.ts';
import { up as openingHours } from './migrations/0017-opening-hours.ts';
import { up as answeringPlans } from './migrations/0018-answering-plans.ts';
import { up as sounds } from './migrations/0019-sounds.ts';
import { up as voicemail } from './migrations/0020-voicemail.ts';
import { up as planRights } from './migrations/0024-plan-rights.ts';
import { up as languages } from './migrations/0025-languages.ts';
import { up as jobs } from './migrations/0026-jobs.ts';
import { up as uploads } from './migrations/0027-uploads.ts';
import { up as scriptKeys } from './migrations/0028-script-keys.ts';
import { up as replays } from './migrations/0029-replays.ts';
import { up as listed } from './migrations/0030-listed.ts';
import { up as savedLists } from './migrations/0031-saved-lists.ts';
import { up as listViews } from './migrations/0032-list-views.ts';
import { up as reading } from './migrations/0033-reading.ts';
import { up as sealedLetters } from './migrations/0034-sealed-letters.ts';
import { up as whoHears } from './migrations/0035-who-hears.ts';
import { up as regionTables } from './migrations/0037-region-tables.ts';
import { up as calendars } from './migrations/0039-calendars.ts';
import { up as recordDigits } from './migrations/0040-record-digits.ts';
import { up as recordingsBots } from './migrations/0041-recordings-bots.ts';
import { up as distributions } from './migrations/0042-distributions.ts';
import { up as ringGroups } from './migrations/0044-ring-groups.ts';
import { up as callsOfRingGroups } from './migrations/0045-calls-of-ring-groups.ts';
import { up as waiting } from './migrations/0043-waiting.ts';
import { up as surveys } from './migrations/0038-surveys.ts';
import { up as setUpTouched } from './migrations/0036-set-up-touched.ts';
import { up as publishLater } from './migrations/0023-publish-later.ts';
import { up as serviceCodes } from './migrations/0022-service-codes.ts';
import { up as blockedAndBusy } from './migrations/0021-blocked-and-busy.ts';

/** In order, forward only. */
const migrations: { name: string; up: (database: Knex) => Promise<void> }[] = [
  { name: '0001-foundation', up: foundation },
  { name: '0002-exchange', up: exchange },
  { name: '0003-whole-bell', up: wholeBell },
  { name: '0004-agents', up: agents },
  { name: '0005-phones', up: phones },
  { name: '0006-lines-out', up: linesOut },
  { name: '0007-numbers', up: numbers },
  { name: '0008-destinations', up: destinations },
  { name: '0009-line-keys', up: lineKeys },
  { name: '0010-when-nobody-lifts', up: whenNobodyLifts },
  { name: '0011-texts', up: texts },
  { name: '0012-way-out-of-a-phone', up: wayOutOfAPhone },
  { name: '0013-set-aside', up: setAside },
  { name: '0014-hosting', up: hosting },
  { name: '0015-guards', up: guards },
  { name: '0016-trade-words', up: tradeWords },
  { name: '0017-opening-hours', up: openingHours },
  { name: '0018-answering-plans', up: answeringPlans },
  { name: '0019-sounds', up: sounds },
  { name: '0020-voicemail', up: voicemail },
  { name: '0021-blocked-and-busy', up: blockedAndBusy },
  { name: '0022-service-codes', up: serviceCodes },
  { name: '0023-publish-later', up: publishLater },
  { name: '0024-plan-rights', up: planRights },
  { name: '0025-languages', up: languages },
  { name: '0026-jobs', up: jobs },
  { name: '0027-uploads', up: uploads },
  { name: '0028-script-keys', up: scriptKeys },
  { name: '0029-replays', up: replays },
  { name: '0030-listed', up: listed },
  { name: '0031-saved-lists', up: savedLists },
  { name: '0032-list-views', up: listViews },
  { name: '0033-reading', up: reading },
  { name: '0034-sealed-letters', up: sealedLetters },
  { name: '0035-who-hears', up: whoHears },
  { name: '0036-set-up-touched', up: setUpTouched },
  { name: '0037-region-tables', up: regionTables },
  { name: '0038-surveys', up: surveys },
  { name: '0039-calendars', up: calendars },
  { name: '0040-record-digits', up: recordDigits },
  { name: '0041-recordings-bots', up: recordingsBots },
  { name: '0042-distributions', up: distributions },
  { name: '0043-waiting', up: waiting },
  { name: '0044-ring-groups', up: ringGroups },
  { name: '0045-calls-of-ring-groups', up: callsOfRingGroups },
];

/**
 * The last migration this database has had, null when it is empty, and those it still needs. Throws when it has had one
 * that this version does not know: it belongs to a newer one.
 */
export async function pendingMigrations(
  database: Database,
): Promise<{ done: string | null; pending: string[] }> {
  if (!(await database.schema.hasTable('knex_migrations'))) return { done: null, pending: names() };
  const done = await database('knex_migrations').orderBy('id').pluck<string[]>('name');
  const unknown = done.find((name) => !names().includes(name));
  if (unknown !== undefined)
    throw new BrokenInstallation(
      `The data was last used by a newer version of Night Bell (it knows ${unknown}). Start that version, or restore a backup made before.`,
    );
  return { done: done.at(-1) ?? null, pending: names().filter((name) => !done.includes(name)) };
}

function names(): string[] {
  return migrations.map(({ name }) => name);
}

/** Brings the database to the newest shape. Safe to run from several servers at once. */
export async function migrate(database: Database): Promise<void> {
  await database.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve(migrations),
      getMigrationName: (migration: (typeof migrations)[number]) => migration.name,
      getMigration: (migration: (typeof migrations)[number]) =>
        Promise.resolve({
          up: migration.up,
          down: () => Promise.reject(new Error('Migrations only go forward.')),
        }),
    },
  });
}
