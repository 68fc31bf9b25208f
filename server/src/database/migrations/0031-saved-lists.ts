import type { Knex } from 'knex';

/** Files that jobs make, the trail of all changes by who made them, and records and opt-outs as lists of any length. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table job add column file_id uuid references upload (id) on delete set null, add column file_name text;
    create index change_by_person on change (by_person, id desc);
    create index change_by_time on change (at, id);

    alter table record add column words tsvector generated always as (
      array_to_tsvector(array_remove(regexp_split_to_array(searchable(name), '[^[:alnum:]]+'), ''))) stored;
    create index record_by_word on record using gin (words);
    create index record_by_name on record (name collate listing, id);
    create index record_number_by_record on record_number (record_id);
    create index record_number_begins on record_number (e164 text_pattern_ops);
    create index record_number_local on record_number (right(e164, 10) text_pattern_ops);
    create index record_number_short on record_number (right(e164, 7) text_pattern_ops);
    create index record_number_last on record_number (right(e164, 4));
    create index contact_in_order on contact (campaign_id, position);
    create index call_by_result on call (direction, result);
    create index opt_out_by_time on opt_out (at desc, e164);
  `);
}
