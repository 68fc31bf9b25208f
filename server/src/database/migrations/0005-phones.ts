import type { Knex } from 'knex';

/** Several phones of a person, from a catalogue, with their own settings; what a person's callers meet when nobody lifts. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table phone drop constraint phone_kind_check;
    alter table phone drop constraint phone_by_kind;
    alter table phone
      add column model text,
      add column transport text not null default 'tls' check (transport in ('udp', 'tcp', 'tls')),
      add column codecs text[] not null default '{}',
      -- Null for the company's own.
      add column time_zone text,
      -- Shown when the person dials directly.
      add column number_id uuid references number (id),
      add column emergency_address jsonb,
      -- A keyed mark of the secret, so that two phones with one secret are seen without reading either.
      add column secret_mark text,
      add column secret_at timestamptz,
      add constraint phone_kind_check check (kind in ('softphone', 'desk', 'cordless', 'browser', 'outside'));
    update phone set model = 'softphone', secret_at = now() where kind = 'softphone';
    alter table phone add constraint phone_by_kind check (
      (kind in ('softphone', 'desk', 'cordless')) = (account is not null)
      and (account is null) = (model is null) and (kind = 'outside') = (e164 is not null));

    alter table team add column emergency_address jsonb;

    alter table person
      add column mail text,
      -- Where a call made straight to them goes when nobody lifts; null for their own voicemail.
      add column no_answer_kind text,
      add column no_answer_item uuid references item (id);
  `);
}
