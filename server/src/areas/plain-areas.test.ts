import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { emptyDocument } from '@night-bell/core/plan/document';
import type { NightBell } from '../app.ts';
import type { Database } from '../database/connection.ts';
import { type Browser, openNight, personSignedIn, walkPages } from '../server.testing.ts';
import { newId } from '../spine/items.ts';
import { blockedItem } from './blocked/store.ts';
import { campaignItem } from './campaigns/store.ts';
import { codeItem } from './codes/store.ts';
import { faxBoxItem } from './fax-boxes/store.ts';
import { hoursItem } from './hours/store.ts';
import { outsideItem } from './outside/store.ts';
import { planItem } from './plans/store.ts';
import { promptItem } from './prompts/store.ts';
import { queueItem } from './queues/store.ts';
import { botItem } from './bots/store.ts';
import { regionItem } from './regions/store.ts';
import { ringGroupItem } from './ring-groups/store.ts';
import { roomItem } from './rooms/store.ts';
import { ruleItem } from './rules/store.ts';
import { scriptKeyItem } from './script-keys/store.ts';
import { skillItem } from './skills/store.ts';
import { sourceItem } from './sources/store.ts';
import { trunkItem } from './trunks/store.ts';
import { voicemailItem } from './voicemail/store.ts';

/** What all plain areas do alike is tried here once, by walking their definitions. */
interface View {
  id: string;
  version: number;
  retired: boolean;
  name: string;
}
interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
  current: View;
  by: string;
}

let night: NightBell;
let admin: Browser;
let database: Database;
let drop: () => Promise<void>;
let supervisor: Browser;
let agent: Browser;
let hoursId: string;

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight());
  supervisor = (await personSignedIn(night, admin, 'Sue Super', 'supervisor')).browser;
  agent = (await personSignedIn(night, admin, 'Al Agent', 'agent')).browser;
  hoursId = (await admin.send<View>('POST', hoursItem.contract.path, { ...always, name: 'For the codes' }))
    .body.id;
});
afterAll(() => drop());

const always = { name: 'Always', zone: 'UTC', weekly: [[], [], [], [], [], [], []], days: [] };
const noGreeting = { outside: null, inside: null };
/** What each kind needs beside a name. */
const drafts: [{ contract: { path: string; area: string } }, () => object, object][] = [
  [skillItem, () => ({}), {}],
  [regionItem, () => ({}), {}],
  [botItem, () => ({ address: 'https://bot.example/talk' }), { limitSeconds: 7 }],
  [outsideItem, () => ({ e164: '+14255550120' }), { ringSeconds: 45 }],
  [roomItem, () => ({}), { joinTone: false }],
  [ringGroupItem, () => ({}), { rounds: 3 }],
  [faxBoxItem, () => ({}), { extension: '7001' }],
  [ruleItem, () => ({ pattern: `1${unique()}` }), { strip: 1 }],
  [trunkItem, () => ({ host: 'provider.example', account: `a${unique()}`, channels: 5 }), { channels: 9 }],
  [sourceItem, () => ({ fromDay: '2026-01-01' }), { cost: '12.50' }],
  [campaignItem, () => ({}), { attempts: 7 }],
  [queueItem, () => ({}), { ringSeconds: 33 }],
  [voicemailItem, () => box, { keepDays: 9 }],
  [planItem, () => ({ document: emptyDocument }), {}],
  [
    promptItem,
    () => ({ kind: 'announcement', language: 'en', words: 'Hello.', personId: null }),
    { words: 'Hi.' },
  ],
  [hoursItem, () => ({ ...always }), { zone: 'Europe/Berlin' }],
  [
    blockedItem,
    () => ({ kind: 'prefix', digits: `+1360${unique()}`, until: null, why: '' }),
    { why: 'Sings.' },
  ],
  [
    codeItem,
    () => ({ digits: `*${unique()}`, does: 'storm', hoursIds: [hoursId], forHours: 2, teamIds: [] }),
    { forHours: 3 },
  ],
  [scriptKeyItem, () => ({ role: 'auditor', areas: [] }), { role: 'supervisor' }],
];
const box = {
  ...{ extension: null, hoursId: null, greetings: { open: noGreeting, closed: noGreeting }, whenFull: null },
  ...{ maxMessageSeconds: 60, mostMessages: 10, keepDays: 7, listeners: [], mailTo: [] },
};
let last = 100;
const unique = () => String(++last);

describe.each(drafts.map(([item, ...rest]) => [item.contract.area, item.contract.path, ...rest] as const))(
  '%s',
  (_area, path, needs, change) => {
    const ifMatch = (version: number) => ({ 'if-match': `"${version}"` });
    const make = async (name: string, more: object = {}) => {
      const draft = { ...needs(), name, ...more };
      const { status, body } = await admin.send<View & Refusal>('POST', path, draft);
      return { status, body, draft };
    };
    const read = async (id: string) =>
      (await admin.send<{ item: View; usedBy: unknown[] }>('GET', `${path}/${id}`)).body;
    const history = async (id: string) =>
      (await admin.send<{ id: number; what: string; by: string | null }[]>('GET', `/api/items/${id}/history`))
        .body;

    test('what is made is in the list and read alone, markup as text', async () => {
      const { status, body, draft } = await make('<b>Bold</b> & Co');
      expect([status, body.name, body.retired]).toEqual([200, '<b>Bold</b> & Co', false]);
      const list = (await admin.send<View[]>('GET', path)).body;
      expect(list.find(({ id }) => id === body.id)).toMatchObject({ ...draft, version: body.version });
      expect(await read(body.id)).toMatchObject({ item: body, usedBy: [] });
    });

    test('without a name, with a field there is none of, or by an id nobody has: refused at the place', async () => {
      expect((await make('')).body.errors.map(({ path: at }) => at)).toContain('/name');
      expect((await make('x'.repeat(200))).body.errors[0]!.path).toBe('/name');
      expect((await make('Fine', { colour: 'red' })).status).toBe(422);
      for (const [method, url] of [
        ['GET', `${path}/${newId()}`],
        ['POST', `${path}/${newId()}/retire`],
      ] as const)
        expect(
          (
            await admin.send(
              'GET' === method ? 'GET' : 'POST',
              url,
              method === 'GET' ? undefined : {},
              ifMatch(1),
            )
          ).status,
        ).toBe(404);
      expect((await admin.send('GET', `${path}/not-an-id`)).status).toBe(422);
    });

    test('a change is kept and told in the history, and is taken back from there', async () => {
      const { body, draft } = await make('Before');
      const changed = await admin.send<View>(
        ...([
          'PUT',
          `${path}/${body.id}`,
          { ...draft, name: 'After', ...change },
          ifMatch(body.version),
        ] as const),
      );
      expect(changed.body).toMatchObject({ name: 'After', ...change });
      expect(changed.body.version).toBeGreaterThan(body.version);
      const [latest, first] = await history(body.id);
      expect([latest!.what, first!.what, latest!.by]).toEqual(['changed', 'created', 'Ada Admin']);
      expect((await admin.send('POST', `/api/changes/${latest!.id}/take-back`)).status).toBeLessThan(300);
      expect((await read(body.id)).item).toMatchObject({ ...draft, name: 'Before' });
    });

    test('of two who change at once the second is shown both; without a version nothing is changed', async () => {
      const { body, draft } = await make('Shared');
      const put = (name: string, headers: Record<string, string>) =>
        admin.send<Refusal>('PUT', `${path}/${body.id}`, { ...draft, name }, headers);
      expect((await put('First', ifMatch(body.version))).status).toBe(200);
      const second = await put('Second', ifMatch(body.version));
      expect([second.status, second.body.code, second.body.current.name]).toEqual([
        412,
        'changedMeanwhile',
        'First',
      ]);
      expect((await put('Third', {})).status).toBe(428);
      expect((await read(body.id)).item.name).toBe('First');
    });

    test('deactivated it is kept with its history, and comes back', async () => {
      const { body } = await make('Gone for a while');
      const turn = (verb: string, version: number) =>
        admin.send<View & Refusal>('POST', `${path}/${body.id}/${verb}`, {}, ifMatch(version));
      const retired = (await turn('retire', body.version)).body;
      expect(retired.retired).toBe(true);
      expect((await turn('reactivate', body.version)).status).toBe(412);
      expect((await turn('reactivate', retired.version)).body.retired).toBe(false);
      expect((await history(body.id)).map(({ what }) => what)).toEqual(['reactivated', 'retired', 'created']);
    });

    test('its list is searched, narrowed and read a stretch at a time, by the next link', async () => {
      const word = `quay${unique()}`;
      const made = [];
      for (const name of [`2 ${word}`, `10 ${word}`, `9 ${word}`]) made.push((await make(name)).body);
      await admin.send('POST', `${path}/${made[2]!.id}/retire`, {}, ifMatch(made[2]!.version));
      const names = async (asked: string) =>
        (await walkPages<View>(night, admin, `${path}?${asked}`)).map(({ name }) => name.split(' ')[0]);
      expect(await names(`search=${word}&sort=name&limit=1`)).toEqual(['2', '9', '10']);
      expect(await names(`search=${word}&sort=name&down=true`)).toEqual(['10', '9', '2']);
      expect(await names(`search=${word}&withRetired=false&limit=2`)).toEqual(['2', '10']);
      expect(await names(`ids=${made[1]!.id}`)).toEqual(['10']);
      expect(await names(`search=10 ${word}`)).toEqual(['10']);
      expect(await names('search=nosuchthing')).toEqual([]);
      const whole = await walkPages<View>(night, admin, path);
      const inParts = await walkPages<View>(night, admin, `${path}?limit=2`);
      expect(inParts.map(({ id }) => id).sort()).toEqual(whole.map(({ id }) => id).sort());
      // In whatever order the whole list is, its parts are too, and it can be turned round.
      const backwards = await walkPages<View>(night, admin, `${path}?down=true&limit=3`);
      expect(backwards.map(({ id }) => id)).toEqual(inParts.map(({ id }) => id).reverse());
      if (path !== voicemailItem.contract.path)
        expect(inParts.map(({ id }) => id)).toEqual(whole.map(({ id }) => id));
      const all = await walkPages<View>(night, admin, `${path}?down=true`);
      expect(all.map(({ id }) => id)).toEqual(backwards.map(({ id }) => id));
      const counted = await night.app.inject({
        url: `${path}?total=true&limit=1`,
        headers: { cookie: admin.cookieHeader },
      });
      expect(counted.headers['total-count']).toBe(String(whole.length));
      for (const wrong of ['limit=0', 'limit=1001', 'sort=colour', 'only=odd', 'after=xyz&limit=1'])
        expect((await admin.send('GET', `${path}?${wrong}`)).status).toBe(422);
    });

    test('supervisors read and change nothing, agents do neither, nobody unknown comes in', async () => {
      const { body, draft } = await make('Guarded');
      expect((await supervisor.send('GET', path)).status).toBe(200);
      expect((await agent.send('GET', path)).status).toBe(403);
      for (const who of [supervisor, agent]) {
        expect((await who.send('POST', path, draft)).status).toBe(403);
        expect((await who.send('POST', `${path}/${body.id}/retire`, {}, ifMatch(body.version))).status).toBe(
          403,
        );
      }
      expect((await night.app.inject({ url: path })).statusCode).toBe(401);
      expect(
        (await database('item').where({ id: body.id }).first<{ retired_at: Date | null }>('retired_at'))!
          .retired_at,
      ).toBeNull();
    });
  },
);

test('the definitions walked here are all there are of plain areas', () => {
  const declared = night.routes
    .filter(({ method, path }) => method === 'POST' && path.endsWith('/:id/reactivate'))
    .map(({ path }) => path.replace('/:id/reactivate', ''));
  const others = ['/api/people', '/api/phones', '/api/connections', '/api/teams', '/api/numbers'];
  expect(declared.filter((path) => !others.includes(path)).sort()).toEqual(
    drafts.map(([item]) => item.contract.path).sort(),
  );
});
