import { afterAll, beforeAll, expect, test } from 'vitest';
import { freshDatabase } from '../server.testing.ts';
import type { Database } from './connection.ts';
import { tableColumns, tables } from './tables.ts';

let database: Database;
let drop: () => Promise<void>;
beforeAll(async () => {
  ({ database, drop } = await freshDatabase());
});
afterAll(() => drop());

/** PostgreSQL's names of what columns hold. */
const kinds: Record<string, string[]> = {
  ...{ uuid: ['uuid'], text: ['text', 'varchar'], int: ['int4'], big: ['int8'], real: ['float4'] },
  ...{ amount: ['numeric'], flag: ['bool'], instant: ['timestamptz'], day: ['date'], bytes: ['bytea'] },
  ...{ json: ['json', 'jsonb'], searched: ['tsvector'], texts: ['_text'], uuids: ['_uuid'], ints: ['_int2'] },
};

interface Column {
  table: string;
  column: string;
  type: string;
  mark: string;
}

test('the tables written down are those of the database after all migrations: columns, types, nulls and defaults', async () => {
  const { rows } = await database.raw<{ rows: Column[] }>(
    `select c.table_name as "table", c.column_name as "column", c.udt_name as type,
       case when is_nullable = 'YES' then '\\?' else '' end
         || case when column_default is not null or is_identity = 'YES' or is_generated = 'ALWAYS' then '=' else '' end as mark
     from information_schema.columns c
     join information_schema.tables t using (table_schema, table_name)
     where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.table_name not like 'knex%'`,
  );
  const there = new Set(rows.map(({ table, column, type, mark }) => `${table}.${column}${mark} ${type}`));
  const written = Object.entries(tables).flatMap(([table, columns]) =>
    Object.entries(columns as Record<string, string>).flatMap(([kind, words]) =>
      words.split(' ').map((word) => kinds[kind]!.map((type) => `${table}.${word} ${type}`)),
    ),
  );
  const unknown = written.filter((either) => !either.some((each) => there.has(each))).map(([each]) => each);
  expect(unknown).toEqual([]);
  const named = new Set(written.flat());
  expect([...there].filter((each) => !named.has(each))).toEqual([]);
});

test('statements are typed by them: no column there is none of, no row without what it needs', async () => {
  const person = await database('item').where({ kind: 'person' }).first('name', 'version');
  expect(person satisfies { name: string; version: number } | undefined).toBeUndefined();
  const wrong = [
    // @ts-expect-error: there is no such column.
    database('item').where({ colour: 'red' }),
    // @ts-expect-error: a version is a number.
    database('item').update({ version: 'one' }),
    // @ts-expect-error: an item has a kind and a name.
    database('item').insert({ id: '01890000-0000-7000-8000-000000000001' }),
  ];
  for (const statement of wrong) await expect(statement.then()).rejects.toThrow();
  expect(tableColumns('extension').sort()).toEqual(['digits', 'item_id']);
});
