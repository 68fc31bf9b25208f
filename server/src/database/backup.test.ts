import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pino from 'pino';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { Browser, freshDatabase, openNight, password, startServer, until } from '../server.testing.ts';
import { landedInstallation } from '../live/landed.testing.ts';
import { BrokenInstallation } from '../settings.ts';
import { backUp, restore, upgrade } from './backup.ts';
import { connect } from './connection.ts';
import { migrate } from './migrate.ts';

let folder: string;
const logger = pino({ level: 'silent' });

beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'night-bell-'))));
afterEach(() => rmSync(folder, { recursive: true }));

test('a backup taken in live use is whole and of one moment; restored elsewhere it goes on', async () => {
  const { night, admin, database, drop } = await openNight();
  const url = (database.client.config.connection as { connectionString: string }).connectionString;
  await admin.send('POST', '/api/people', { name: 'Before The Backup' });
  await night.live.settled();
  const file = join(folder, 'one.backup');
  // People are made all the while.
  let making = true;
  const makes = (async () => {
    for (let i = 0; making; i++) await admin.send('POST', '/api/people', { name: `Meanwhile ${i}` });
  })();
  await backUp(url, file);
  making = false;
  await makes;
  expect(statSync(file).size).toBeGreaterThan(10_000);
  await drop();

  const target = await freshDatabase();
  await target.database('installation').update({ name: 'What was here before' });
  await target.database.raw('create table left_over (id integer)');
  await target.database.destroy();
  await restore(target.url, file);
  const restored = connect(target.url);
  expect(await restored.schema.hasTable('left_over')).toBe(false);
  const again = await startServer(restored);
  await until(() => again.live.isHost, 'it hosts');
  const browser = new Browser(again);
  expect(await browser.signIn('ada', password)).toBe(204);
  const names = (await browser.send<{ name: string }[]>('GET', '/api/people')).body.map(({ name }) => name);
  expect(names).toContain('Before The Backup');
  // Every person has their voicemail, phone and history, or is not there at all.
  const { rows } = await restored.raw<{ rows: unknown[] }>(
    `select p.id from person p where not exists (select 1 from change c where c.item_id = p.id)`,
  );
  expect(rows).toEqual([]);
  await again.close();
  await restored.destroy();
  await target.drop();
});

test('a file that is no backup changes nothing', async () => {
  const target = await freshDatabase();
  await target.database('installation').update({ name: 'Stays' });
  await expect(restore(target.url, new URL(import.meta.url).pathname)).rejects.toThrow();
  expect((await target.database('installation').first('name'))!.name).toBe('Stays');
  await target.drop();
});

test('an installation of the version before is backed up, brought up and goes on; its backup holds what it was', async () => {
  const landed = await landedInstallation({ migrated: false });
  await upgrade(landed.database, { url: landed.url, backups: folder, logger });
  const [file] = readdirSync(folder);
  expect(file).toMatch(/^before-0013-set-aside-.*\.backup$/);
  expect(readFileSync(join(folder, file!)).subarray(0, 5).toString()).toBe('PGDMP');
  expect(await landed.database.schema.hasTable('set_aside')).toBe(true);
  // Restored, it is of the version before; the next start brings it up again.
  const old = await freshDatabase(() => Promise.resolve());
  await old.database.destroy();
  await restore(old.url, join(folder, file!));
  const back = connect(old.url);
  expect(await back.schema.hasTable('set_aside')).toBe(false);
  expect(await back('call').pluck('id')).toEqual(landed.landed.gone);
  await upgrade(back, { url: old.url, backups: folder, logger });
  expect(readdirSync(folder)).toHaveLength(2);
  await back.destroy();
  await old.drop();
  await landed.drop();
});

test('a start without anything to upgrade makes no backup, and of a newer version is refused with a sentence', async () => {
  const fresh = await freshDatabase();
  await upgrade(fresh.database, { url: fresh.url, backups: folder, logger });
  expect(readdirSync(folder)).toEqual([]);
  await fresh
    .database('knex_migrations')
    .insert({ name: '9999-tomorrow', batch: 9, migration_time: new Date() });
  await expect(upgrade(fresh.database, { url: fresh.url, backups: folder, logger })).rejects.toThrow(
    /newer version/,
  );
  await fresh.drop();
});

test('without its backup an upgrade changes nothing', async () => {
  const landed = await landedInstallation({ migrated: false });
  const nowhere = 'postgres://nobody@127.0.0.1:1/nothing';
  await expect(upgrade(landed.database, { url: nowhere, backups: folder, logger })).rejects.toThrow(
    BrokenInstallation,
  );
  expect(await landed.database.schema.hasTable('set_aside')).toBe(false);
  await migrate(landed.database);
  await landed.drop();
});
