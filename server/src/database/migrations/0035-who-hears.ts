import type { Knex } from 'knex';

/** Whose boxes are whose, found from the person instead of by looking through every box. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create index voicemail_box_listened on voicemail_box using gin (listeners);
    create index voicemail_box_of_nobody on voicemail_box (id) where owner_id is null;
    create index item_retired on item (kind, id) where retired_at is not null;
    create index person_in_use_by_team on listed (team_id) where kind = 'person' and not retired;
  `);
}
