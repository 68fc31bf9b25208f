import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { readAmount, writeAmount } from '@night-bell/core/model/amount';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import {
  type Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  startServer,
} from '../../server.testing.ts';
import { addEntries, balance, chargeCalls } from '../balance/store.ts';
import type { NumberView } from '../numbers/store.ts';
import { NumberShopForTests } from './shop.testing.ts';
import { chargeRent } from './store.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let database: Database;
let drop: () => Promise<void>;
let admin: Browser;
let shop: NumberShopForTests;

beforeAll(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'night-bell-shop-'));
  shop = await NumberShopForTests.start(join(folder, 'shop.json'));
  const fresh = await freshDatabase();
  database = fresh.database;
  night = await startServer(database, { shop: shop.door });
  admin = await firstAdministrator(night, database);
  drop = async () => {
    await night.close();
    await shop.close();
    await fresh.drop();
    rmSync(folder, { recursive: true });
  };
});
afterAll(() => drop());

const post = <T = Refusal>(url: string, body: unknown = {}, who = admin) => who.send<T>('POST', url, body);
const hold = (...numbers: string[]) => post('/api/number-shop/holds', { numbers });
const rent = (...numbers: string[]) =>
  post<{ ids: string[] } & Refusal>('/api/number-shop/rentals', { numbers });
const numbers = async () => (await admin.send<NumberView[]>('GET', '/api/numbers')).body;
const payIn = (amount: string) => post('/api/balance/top-ups', { amount });
const now = async () => writeAmount(await balance(database));

describe('the number shop', () => {
  test('says before the click what it cannot do, and finds by area code, city and text', async () => {
    const countries = (
      await admin.send<{ code: string; nothingBecause: string | null }[]>('GET', '/api/number-shop/countries')
    ).body;
    expect(countries.find((country) => country.code === 'GB')!.nothingBecause).toContain('Sold out');
    const found = (
      await admin.send<{ number: string; place: string; text: boolean; monthly: string }[]>(
        'GET',
        '/api/number-shop/numbers?country=US&kind=local&area=206&place=seattle&text=true',
      )
    ).body;
    expect(found.length).toBeGreaterThan(10);
    expect(found.every(({ number, text }) => number.startsWith('+1206') && text)).toBe(true);
  });

  test('holding, then renting with the first month paid; the hold is ours until it is over', async () => {
    expect((await hold('+12065550111', '+12065550112')).status).toBe(204);
    const held = (await admin.send<{ number: string; until: string }[]>('GET', '/api/number-shop/holds'))
      .body;
    expect(held.map(({ number }) => number)).toEqual(['+12065550111', '+12065550112']);
    expect(Date.parse(held[0]!.until) - Date.now()).toBeGreaterThan(9 * 60_000);
    const poor = await rent('+12065550111', '+12065550112');
    expect([poor.status, poor.body.detail]).toEqual([409, expect.stringContaining('Pay in first')]);
    expect((await payIn('50')).status).toBe(200);
    const rented = await rent('+12065550111', '+12065550112');
    expect(rented.body.ids).toHaveLength(2);
    expect((await numbers()).find((number) => number.e164 === '+12065550111')).toMatchObject({
      label: 'Seattle, Washington',
      destination: null,
      monthly: '1.15',
    });
    expect(await now()).toBe('47.70');
    const again = await rent('+12065550111');
    expect([again.status, again.body.detail]).toEqual([409, expect.stringContaining('ours already')]);
  });

  test('two who press at once rent once and pay once', async () => {
    await hold('+12065550115');
    const before = await balance(database);
    const both = await Promise.all([rent('+12065550115'), rent('+12065550115')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(before - (await balance(database))).toBe(readAmount('1.15'));
    expect((await numbers()).filter((number) => number.e164 === '+12065550115')).toHaveLength(1);
  });

  test('held by somebody else, and a hold that has run out', async () => {
    shop.stock.hold(['+12065550120'], 'another company');
    const refused = await hold('+12065550120');
    expect(refused.body.detail).toContain('Somebody else holds');
    await hold('+12065550121');
    shop.pass(11 * 60_000);
    await database('number_hold').update({ until: new Date(Date.now() - 1_000) });
    const late = await rent('+12065550121');
    expect(late.body.detail).toContain('The hold has run out');
  });

  test('a number given up goes back to the shop', async () => {
    const number = (await numbers()).find((each) => each.e164 === '+12065550112')!;
    const given = await admin.send('POST', `/api/numbers/${number.id}/give-up`, {}, { 'if-match': '"1"' });
    expect(given.status).toBe(204);
    expect((await hold('+12065550112')).status).toBe(204);
  });

  test('only administrators hold and rent', async () => {
    const { browser } = await personSignedIn(night, admin, 'Shop Look', 'supervisor');
    expect((await post('/api/number-shop/holds', { numbers: ['+12065550130'] }, browser)).status).toBe(403);
    expect((await browser.send('GET', '/api/number-shop/countries')).status).toBe(200);
  });

  test('when it does not answer nothing is lost, and the sentence says so', async () => {
    await shop.close();
    const refused = await hold('+12065550140');
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      expect.stringContaining('Nothing was rented'),
    ]);
    await shop.reopen();
  });
});

describe('the balance', () => {
  test('rent of later months is charged once however often it is looked at', async () => {
    const number = (await numbers()).find((each) => each.e164 === '+12065550111')!;
    await database('number')
      .where({ id: number.id })
      .update({ paid_until: new Date(Date.now() - 86_400_000) });
    const before = await balance(database);
    await Promise.all([chargeRent(database), chargeRent(database)]);
    await chargeRent(database);
    expect(before - (await balance(database))).toBe(readAmount('1.15'));
  });

  test('calls cost by the longest prefix, to the second, once', async () => {
    const trunk = (
      await post<{ id: string }>('/api/trunks', {
        ...{ name: 'Priced', host: 'provider.example', account: 'priced', channels: 2 },
        prices: [
          { prefix: '', perMinute: '0.06' },
          { prefix: '+1', perMinute: '0.01' },
          { prefix: '+1206', perMinute: '0.0075' },
        ],
      })
    ).body;
    const callId = '00000000-0000-7000-8000-00000000000a';
    const calls = [
      // On the line twice, a caller having gone there and back.
      { callId, trunkId: trunk.id, digits: '12065550140', seconds: 60 },
      { callId, trunkId: trunk.id, digits: '12065550140', seconds: 30 },
      { callId, trunkId: trunk.id, digits: '+3361234567', seconds: 1 },
    ];
    const before = await balance(database);
    await chargeCalls(database, calls);
    await chargeCalls(database, calls);
    expect(writeAmount(before - (await balance(database)))).toBe('0.01225');
  });

  test('what is no amount is refused at its field; the sum of many is exact', async () => {
    for (const bad of ['', '5,50', '-3', '0', '99999999'])
      expect((await payIn(bad)).body.errors[0]!.path, bad).toBe('/amount');
    const before = await balance(database);
    await addEntries(
      database,
      Array.from({ length: 1_000 }, () => ({ kind: 'call' as const, amount: -100_000n, what: 'a tenth' })),
    );
    expect(writeAmount(before - (await balance(database)))).toBe('100.00');
    const home = await admin.send<{ findings: { code: string }[] }>('GET', '/api/home');
    expect(home.body.findings.map((finding) => finding.code)).toContain('balanceLow');
  });
});

describe('numbers of a list', () => {
  const bring = (text: string, dryRun = false) =>
    post<{ rows: { faults: Record<string, string>; label: string }[]; made: number }>('/api/numbers/list', {
      text,
      dryRun,
    });

  test('are checked cell by cell and brought all or none', async () => {
    await post('/api/queues', { name: 'Listed', extension: '3099' });
    const text = [
      'Number;Label;Leads to',
      '+1 253 555 0101;Tacoma;Listed',
      '+1 253 555 0101;Twice;',
      '253 555;Short;',
      '+1 253 555 0102;;Nowhere to be found',
      '+1 253 555 0103;;3099',
    ].join('\n');
    const checked = (await bring(text)).body;
    expect(checked.made).toBe(0);
    expect(checked.rows.map((row) => Object.keys(row.faults))).toEqual([
      [],
      ['number'],
      ['number'],
      ['destination'],
      [],
    ]);
    const good = await bring('Number;Label;Leads to\n+1 253 555 0101;Tacoma;Listed\n+1 253 555 0103;;3099');
    expect(good.body.made).toBe(2);
    expect((await numbers()).find((number) => number.e164 === '+12535550103')).toMatchObject({
      label: 'Washington State',
      destinationName: 'Listed',
    });
  });

  test('say how many calls they take at once; what is no such number is said in its row', async () => {
    const text = ['number,label,calls at once', '+12535550105,Four,4', '+12535550106,Any,'].join('\n');
    const wrong = (await bring(`${text}\n+12535550107,Many,lots\n+12535550108,None,0`)).body;
    expect(wrong.made).toBe(0);
    expect(wrong.rows.map(({ faults }) => faults.atOnce ?? '')).toEqual([
      ...['', '', 'lots is no number of calls. Write 1 to 10,000, or leave the cell empty.'],
      '0 is no number of calls. Write 1 to 10,000, or leave the cell empty.',
    ]);
    expect((await bring(text)).body.made).toBe(2);
    const limits = (await numbers()).flatMap(({ e164, mostCalls }) =>
      e164 === '+12535550105' || e164 === '+12535550106' ? [mostCalls] : [],
    );
    expect(limits).toEqual([4, null]);
  });

  test('several are routed at once, and taken back at once', async () => {
    const all = await numbers();
    const ids = all.slice(0, 2).map((number) => number.id);
    const routed = await post<{ batch: string }>('/api/numbers/bulk', {
      ids,
      change: { destination: { kind: 'end' } },
    });
    expect((await numbers()).filter((number) => number.destination?.kind === 'end')).toHaveLength(2);
    expect((await post(`/api/batches/${routed.body.batch}/take-back`)).status).toBe(204);
    expect((await numbers()).filter((number) => number.destination?.kind === 'end')).toHaveLength(0);
  });
});
