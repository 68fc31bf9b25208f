import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NewPerson } from '../areas/people/create.ts';
import { tables } from '../database/tables.ts';
import type { Database } from '../database/connection.ts';
import { type Browser, openNight } from '../server.testing.ts';
import { compileConfiguration, forgetTouches, SetUpReader } from './compile.ts';
import { partNames, type PartName, setUpParts } from './set-up-parts.ts';

let admin: Browser;
let database: Database;
let drop: () => Promise<void>;
beforeAll(async () => {
  ({ admin, database, drop } = await openNight());
});
afterAll(() => drop());

const make = async (path: string, body: object) => {
  const answer = await admin.send<{ id: string; version: number }>('POST', path, body);
  expect(answer.status).toBe(200);
  return answer.body;
};
const emergencyAddress = {
  ...{ street: '1 Quay', unit: '', city: 'Gull Harbour', region: 'WA' },
  ...{ postalCode: '98250', country: 'US' },
};
const always = { zone: 'UTC', weekly: [[], [], [], [], [], [], []], days: [] };

/** Something is done, and the parts that are read again for it. */
const doings: [string, () => Promise<unknown>, PartName[]][] = [
  ['nothing', () => Promise.resolve(), []],
  ['a skill is made', () => make('/api/skills', { name: 'French' }), ['people', 'skills']],
  ['a set of hours is made', () => make('/api/opening-hours', { name: 'Terminal', ...always }), ['hours']],
  [
    'a caller is blocked',
    () =>
      make('/api/blocked', { name: 'Sings', kind: 'number', digits: '+13605550117', until: null, why: '' }),
    ['blocked'],
  ],
  [
    'an outside number without an extension is made',
    () => make('/api/outside-numbers', { name: 'Ferry office', e164: '+14255550120' }),
    ['outside'],
  ],
  ['a dialling rule is made', () => make('/api/dialling-rules', { name: 'Out', pattern: '9X' }), ['rules']],
  [
    'a number is entered',
    () => make('/api/numbers', { e164: '+12065550140', label: 'Main', destination: { kind: 'end' } }),
    ['phones', 'numbers', 'trunks', 'campaigns'],
  ],
  [
    'a team is given an address',
    async () => {
      const { id, version } = await make('/api/teams', { name: 'Bookings' });
      await admin.send(
        'PUT',
        `/api/teams/${id}`,
        { name: 'Bookings', emergencyAddress },
        { 'if-match': `"${version}"` },
      );
    },
    ['phones'],
  ],
  [
    'the company’s clock is changed past the interface',
    () => database('installation').update({ time_zone: 'Europe/Berlin' }),
    ['installation'],
  ],
];

test.each(doings)(
  '%s: only what it is about is read again, and all of it is as if read anew',
  async (_, act, parts) => {
    const reader = new SetUpReader();
    await reader.read(database);
    expect(reader.fresh).toEqual(partNames);
    await act();
    const again = await reader.read(database);
    expect([...reader.fresh].sort()).toEqual([...parts].sort());
    expect(again).toEqual(await compileConfiguration(database));
  },
);

test('a person made, renamed and deactivated is seen each time, with extension, phone and box', async () => {
  const reader = new SetUpReader();
  await reader.read(database);
  const { id } = (await admin.send<NewPerson>('POST', '/api/people', { name: 'Ann First' })).body;
  const named = async () => {
    const read = await reader.read(database);
    expect(read).toEqual(await compileConfiguration(database));
    return [
      read.people.find((person) => person.id === id)?.name,
      read.phones.some(({ personId }) => personId === id),
      read.voicemailBoxes.length,
    ];
  };
  const [, , boxes] = await named();
  expect(await named()).toEqual(['Ann First', true, boxes]);
  await database('item').where({ id }).update({ name: 'Ann Later' });
  expect(await named()).toEqual(['Ann Later', true, boxes]);
  await database('item').where({ id }).update({ retired_at: new Date() });
  expect(await named()).toEqual([undefined, false, Number(boxes) - 1]);
});

test('what is written and not committed is not seen, and is once it is, though others wrote meanwhile', async () => {
  const reader = new SetUpReader();
  const trx = await database.transaction();
  await trx('item').insert({ id: '01890000-0000-7000-8000-00000000000a', kind: 'skill', name: 'Slow' });
  await trx('skill').insert({ id: '01890000-0000-7000-8000-00000000000a' });
  await make('/api/skills', { name: 'Quick' });
  await reader.read(database);
  const before = reader.fresh.length;
  await reader.read(database);
  expect([before, reader.fresh]).toEqual([partNames.length, []]);
  await trx.commit();
  await reader.read(database);
  expect(reader.fresh).toContain('skills');
});

test('writings of days ago are forgotten, and nothing is lost by it', async () => {
  const reader = new SetUpReader();
  await reader.read(database);
  await database('set_up_touch').update({ at: new Date(Date.now() - 2 * 86_400_000) });
  expect(await forgetTouches(database)).toBeGreaterThan(0);
  expect(await reader.read(database)).toEqual(await compileConfiguration(database));
});

/** Read for what lists show, and in nothing that the exchange gets. */
const notCompiled: Partial<Record<PartName, string[]>> = {
  ...{
    queues: ['person'],
    ringGroups: ['person'],
    numbers: ['call', 'installation'],
    skills: ['skill', 'person_skill'],
  },
  ...{ trunks: ['phone', 'trunk_price'], faxBoxes: ['fax'], campaigns: ['contact'] },
  ...{ hours: ['item_reference'], prompts: ['item_reference'] },
  plans: ['item_reference', 'number', 'plan_schedule'],
};

test.each(partNames)('%s is read from no table but those that wake it', async (name) => {
  const read = new Set<string>();
  const listen = ({ sql }: { sql: string }) => {
    for (const [, table] of sql.matchAll(/\b(?:from|join)\s+"?([a-z_]+)"?/gi)) read.add(table!.toLowerCase());
  };
  await database.transaction((trx) => {
    trx.on('query', listen);
    return setUpParts[name].read(trx) as Promise<unknown>;
  });
  const known = setUpParts[name].from.map((source) => source.replace(/ .*/, ''));
  const others = [...read].filter((table) => table in tables && !known.includes(table));
  expect(others.filter((table) => !(notCompiled[name] ?? []).includes(table))).toEqual([]);
});
