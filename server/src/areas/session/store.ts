import type { Locale, OwnReading } from '@night-bell/core/contracts/reading';
import type { Knex } from 'knex';
import type { Elsewhere } from '@night-bell/core/model/people.schema';
import type { Role } from '@night-bell/core/model/roles';
import { tidyCode } from '../../security/secret-box.ts';
import type { SecretBox } from '../../security/secret-box.ts';

export interface Installation {
  id: string;
  name: string;
  time_zone: string;
  /** How dates, times and numbers are written; null for the house's own forms. */
  locale: Locale | null;
  demo: boolean;
  /** A call talked at least so long is a good one. */
  good_call_seconds: number;
  /** Rented seats, null for no limit. */
  seats: number | null;
}

/** How this person reads dates, times and numbers; null for as the company does. */
export async function readingOf(database: Knex, personId: string): Promise<OwnReading> {
  const row = await database('person')
    .where({ id: personId })
    .first<OwnReading | undefined>('locale', { timeZone: 'reading_zone' });
  return row ?? { locale: null, timeZone: null };
}

export async function installation(database: Knex): Promise<Installation> {
  const row = await database('installation').first<Installation | undefined>(
    'id',
    'name',
    'time_zone',
    'locale',
    'demo',
    'good_call_seconds',
    'seats',
  );
  if (row === undefined) throw new Error('the installation row is missing');
  return row;
}

export async function hasAdministrator(database: Knex): Promise<boolean> {
  const row = await database('person as p')
    .join('item as i', 'i.id', 'p.id')
    .where('p.role', 'administrator')
    .whereNull('i.retired_at')
    .first('p.id');
  return row !== undefined;
}

export interface SignInRow {
  id: string;
  name: string;
  role: Role;
  password_hash: string | null;
  /** What happens when they are still signed in elsewhere. */
  elsewhere: Elsewhere;
}

export async function findByLogin(database: Knex, login: string): Promise<SignInRow | undefined> {
  return database('person as p')
    .join('item as i', 'i.id', 'p.id')
    .leftJoin('credential as c', 'c.person_id', 'p.id')
    .where('p.login', login)
    .whereNull('i.retired_at')
    .first<SignInRow | undefined>('p.id', 'i.name', 'p.role', 'c.password_hash', 'p.elsewhere');
}

/** Uses up a one-time code. False when it is unknown, used or over. */
export async function useCode(
  database: Knex,
  seal: SecretBox,
  purpose: 'sign-in' | 'first-administrator',
  typed: string,
  personId: string | null,
): Promise<boolean> {
  const used = await database('one_time_code')
    .where({ purpose, hash: seal.hash(tidyCode(typed)), person_id: personId })
    .whereNull('used_at')
    .andWhere('expires_at', '>', database.fn.now())
    .update({ used_at: database.fn.now() });
  return used === 1;
}

export async function setPassword(database: Knex, personId: string, passwordHash: string): Promise<void> {
  await database('credential')
    .insert({ person_id: personId, password_hash: passwordHash, changed_at: database.fn.now() })
    .onConflict('person_id')
    .merge();
}
