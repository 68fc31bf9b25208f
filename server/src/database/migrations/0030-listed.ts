import type { Knex } from 'knex';

/**
 * What lists are paged, sorted and searched by: one narrow row for each item people list. The database keeps it itself,
 * so that no way of writing can forget to. `words` are the beginnings one may search by, each behind its kind; `key` is
 * the other thing lists are sorted by: an extension (shorter ones first) or a number.
 */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create collation listing (provider = icu, locale = 'und-u-kn-true');

    create table listed (
      id uuid primary key references item (id),
      kind text not null,
      name text collate listing not null,
      key text collate "C" not null,
      team_id uuid,
      retired boolean not null,
      words tsvector not null
    );

    create function searchable(text) returns text language sql immutable as $$
      select lower(regexp_replace(normalize($1, NFKD), '[' || chr(768) || '-' || chr(879) || ']', '', 'g')
        collate "und-x-icu")
    $$;

    create function list_items(changed uuid[]) returns void language sql as $$
      insert into listed (id, kind, name, key, team_id, retired, words)
      select i.id, i.kind, i.name, coalesce(n.e164, lpad(e.digits, 6, ' '), ''), p.team_id,
        i.retired_at is not null or o.retired_at is not null,
        array_to_tsvector(array(
          select distinct i.kind || ':' || word
          from unnest(
            regexp_split_to_array(searchable(i.name || ' ' || coalesce(p.login, '')), '[^[:alnum:]]+')
            || array[e.digits, substr(n.e164, 2), right(n.e164, 10), right(n.e164, 7), right(n.e164, 4)]) word
          where word <> ''))
      from item i
      left join person p on p.id = i.id
      left join extension e on e.item_id = i.id
      left join number n on n.id = i.id
      left join voicemail_box v on v.id = i.id
      left join item o on o.id = v.owner_id
      where i.kind <> 'phone'
        -- People and numbers are listed when their own row is there.
        and (i.kind <> 'person' or p.id is not null) and (i.kind <> 'number' or n.id is not null)
        and i.id = any(changed || array(select b.id from voicemail_box b where b.owner_id = any(changed)))
      on conflict (id) do update set name = excluded.name, key = excluded.key, team_id = excluded.team_id,
        retired = excluded.retired, words = excluded.words
      where (listed.name, listed.key, listed.team_id, listed.retired, listed.words)
        is distinct from (excluded.name, excluded.key, excluded.team_id, excluded.retired, excluded.words)
    $$;

    create function list_changed_items() returns trigger language plpgsql as $$
    begin
      perform list_items(array(select id from changed));
      return null;
    end $$;
    create function list_items_of_extensions() returns trigger language plpgsql as $$
    begin
      perform list_items(array(select item_id from changed));
      return null;
    end $$;
  `);
  for (const table of ['item', 'person', 'number', 'voicemail_box'])
    await followTable(database, table, 'list_changed_items', ['insert', 'update']);
  await followTable(database, 'extension', 'list_items_of_extensions', ['insert', 'update', 'delete']);
  await database.raw(`
    select list_items(array(select id from item));
    create index listed_in_use_by_name on listed (kind, name, id) where not retired;
    create index listed_in_use_by_key on listed (kind, key, id) where not retired;
    create index listed_by_name on listed (kind, name, id);
    create index listed_by_key on listed (kind, key, id);
    create index listed_by_team on listed (team_id, name, id) where team_id is not null;
    create index listed_by_word on listed using gin (words);
  `);
}

async function followTable(
  database: Knex,
  table: string,
  by: string,
  events: ('insert' | 'update' | 'delete')[],
): Promise<void> {
  for (const event of events)
    await database.raw(`create trigger listed_after_${event} after ${event} on ${table}
      referencing ${event === 'delete' ? 'old' : 'new'} table as changed
      for each statement execute function ${by}()`);
}
