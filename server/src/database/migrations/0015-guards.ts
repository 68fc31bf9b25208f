import type { Knex } from 'knex';

/** Addresses on private networks that an administrator allows to be asked. Guesses are counted anew, in another way. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table allowed_address (
      address text primary key,
      by_person uuid references item (id),
      at timestamptz not null default now()
    );
    -- Guesses are counted by account and browser; those counted by address mean nothing any more.
    delete from sign_in_guess;
    alter table sign_in_guess add column account text not null;
    create index sign_in_guess_by_account on sign_in_guess (account);
  `);
}
