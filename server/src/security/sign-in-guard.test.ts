import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import type { Database } from '../database/connection.ts';
import { Browser, openNight, password, personSignedIn } from '../server.testing.ts';

let night: NightBell;
let admin: Browser;
let database: Database;
let drop: () => Promise<void>;
let login: string;
/** The owner's own browser, which has signed in before. */
let own: Browser;

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight());
  const { browser, made } = await personSignedIn(night, admin, 'Olga Owner', 'supervisor');
  own = browser;
  login = made.login;
});
afterAll(() => drop());
beforeEach(() => database('sign_in_guess').delete());

const from = (remoteAddress: string, headers: Record<string, string> = {}) => ({ remoteAddress, headers });
/** A try to sign in from a browser that has never been here. */
async function stranger(typed: string, { remoteAddress } = from('198.51.100.7')): Promise<number> {
  const answer = await night.app.inject({
    method: 'POST',
    url: '/api/session',
    remoteAddress,
    payload: { login, password: typed },
  });
  return answer.statusCode;
}

describe('guessing at an account', () => {
  test('by a stranger is slowed down, from whatever address, with a wait that is told', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 7; i++) statuses.push(await stranger(`guess ${i}`, from(`198.51.100.${i}`)));
    expect(statuses).toEqual([401, 401, 401, 401, 401, 401, 429]);
    const told = await night.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { login, password: 'x' },
    });
    expect(told.json<{ detail: string }>().detail).toMatch(/Wait \d+ s/);
    expect(Number(told.headers['retry-after'])).toBeGreaterThan(0);
  });

  test('keeps the owner out of no browser of theirs, nor anybody else at that address', async () => {
    for (let i = 0; i < 12; i++) await stranger('guess');
    expect(await stranger(password)).toBe(429);
    expect(await own.signIn(login, password)).toBe(204);
    const colleague = await night.app.inject({
      method: 'POST',
      url: '/api/session',
      remoteAddress: '198.51.100.7',
      payload: { login: 'ada', password },
    });
    expect(colleague.statusCode).toBe(204);
  });

  test('is forgiven to somebody with a one-time code, which nobody guesses', async () => {
    const person = (
      await admin.send<{ id: string; login: string; signInCode: string }>('POST', '/api/people', {
        name: 'New Comer',
      })
    ).body;
    for (let i = 0; i < 8; i++) await new Browser(night).signIn(person.login, `guess ${i}`);
    expect(await new Browser(night).signIn(person.login, 'guess')).toBe(429);
    expect(await new Browser(night).signIn(person.login, person.signInCode)).toBe(204);
  });

  test('in the owner’s own browser is counted there, and the administrator lets them in again', async () => {
    for (let i = 0; i < 6; i++) expect(await own.signIn(login, 'wrong')).toBe(401);
    expect(await own.signIn(login, password)).toBe(429);
    expect(await stranger(password)).toBe(204);
    const people = (await admin.send<{ id: string; login: string }[]>('GET', '/api/people')).body;
    const { id } = people.find((each) => each.login === login)!;
    const access = await admin.send<{ lockedSeconds: number }>('GET', `/api/people/${id}/access`);
    expect(access.body.lockedSeconds).toBeGreaterThan(0);
    expect((await admin.send('POST', `/api/people/${id}/unlock`)).status).toBe(204);
    expect(await own.signIn(login, password)).toBe(204);
  });

  test('with a forged mark of a browser seen before gains nothing', async () => {
    const { id } = await database('installation').first<{ id: string }>('id');
    const cookie = `night-bell-seen-${id.slice(0, 8)}=abc.forged`;
    const statuses: number[] = [];
    for (let i = 0; i < 8; i++) {
      const answer = await night.app.inject({
        method: 'POST',
        url: '/api/session',
        headers: { cookie: `${cookie}${i}` },
        payload: { login, password: 'guess' },
      });
      statuses.push(answer.statusCode);
    }
    expect(statuses.slice(6)).toEqual([429, 429]);
  });
});

describe('one’s own password', () => {
  const change = (present: string, fresh: string) =>
    own.send<{ code: string; errors: { path: string; detail: string }[] }>('PUT', '/api/session/password', {
      present,
      password: fresh,
    });

  test('is not guessed by somebody at an open page', async () => {
    await own.signIn(login, password);
    const statuses: number[] = [];
    for (let i = 0; i < 7; i++) statuses.push((await change(`guess ${i}`, 'a better one by far')).status);
    expect(statuses.slice(5)).toEqual([401, 429]);
    expect((await change(password, 'a better one by far')).status).toBe(429);
  });

  test.each([
    ['aaaaaaaaaaaaaaa', /over and over/],
    ['passwordpassword', /repeats itself|tries first/],
    ['qwertyuiop123456', /tries first/],
  ])('is not %s', async (bad, why) => {
    await own.signIn(login, password);
    const { status, body } = await change(password, bad);
    expect([status, body.errors[0]!.path]).toEqual([422, '/password']);
    expect(body.errors[0]!.detail).toMatch(why);
  });
});
