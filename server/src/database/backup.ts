import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Logger } from 'pino';
import { BrokenInstallation } from '../settings.ts';
import type { Database } from './connection.ts';
import { migrate, pendingMigrations } from './migrate.ts';

const run = promisify(execFile);
const debianPrograms = '/usr/lib/postgresql';

/** Where a program of PostgreSQL's is: the newest that Debian installed, else what the path finds. */
function postgresProgram(name: string): string {
  const versions = existsSync(debianPrograms) ? readdirSync(debianPrograms) : [];
  const newest = versions.sort((one, other) => Number(other) - Number(one))[0];
  const program = join(debianPrograms, newest ?? '', 'bin', name);
  return newest !== undefined && existsSync(program) ? program : name;
}

/** A file name that sorts by time. */
export function backupName(begin: string): string {
  return `${begin}-${new Date().toISOString().replace(/[:.]/g, '-')}.backup`;
}

/**
 * The whole database as it is at one moment, as one file in PostgreSQL's custom format. Calls go on meanwhile. The
 * sealing key is not in it: without that file the secrets in it cannot be read.
 */
export async function backUp(url: string, file: string): Promise<void> {
  await run(postgresProgram('pg_dump'), [
    '--format=custom',
    '--no-owner',
    '--no-privileges',
    `--file=${file}`,
    url,
  ]);
}

/** Replaces everything in the database by what the file holds, all or nothing. Nobody else may be using it. */
export async function restore(url: string, file: string): Promise<void> {
  const script = `${file}.restore.sql`;
  const before = `${file}.before.sql`;
  try {
    await run(postgresProgram('pg_restore'), ['--no-owner', '--no-privileges', `--file=${script}`, file]);
    await writeFile(before, 'drop schema public cascade; create schema public;');
    await run(postgresProgram('psql'), [
      ...['--no-psqlrc', '--quiet', '--single-transaction', '--set=ON_ERROR_STOP=1'],
      ...[`--file=${before}`, `--file=${script}`, url],
    ]);
  } finally {
    await rm(script, { force: true });
    await rm(before, { force: true });
  }
}

/**
 * Brings the database to the shape of this version. When it holds an installation of an older one, that is backed up
 * first, and said; without a backup nothing is changed.
 */
export async function upgrade(
  database: Database,
  { url, backups, logger }: { url: string; backups: string | null; logger: Logger },
): Promise<void> {
  const { done, pending } = await pendingMigrations(database);
  if (done === null || pending.length === 0) return migrate(database);
  if (backups === null) {
    logger.warn('No folder for backups is set (NIGHT_BELL_BACKUPS): upgrading without one.');
    return migrate(database);
  }
  const file = join(backups, backupName(`before-${pending[0]}`));
  mkdirSync(backups, { recursive: true, mode: 0o700 });
  await backUp(url, file).catch((error: unknown) => {
    throw new BrokenInstallation(
      `This is a newer version of Night Bell, and the backup that is made before an upgrade failed. Nothing was changed. ${String(error)}`,
    );
  });
  process.stdout.write(
    `Upgrading the data from ${done} to ${pending.at(-1)}. A backup was made first: ${file}\n`,
  );
  await migrate(database);
}
