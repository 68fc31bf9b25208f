import { AxePuppeteer } from '@axe-core/puppeteer';
import type { Browser, Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Hand, type Started, startChromium, startNightBell } from './browser.testing.ts';

const password = 'eight bells and all is well';
let night: Started;
let chromium: Browser;
let admin: Hand;

beforeAll(async () => {
  night = await startNightBell({});
  chromium = await startChromium();
  admin = new Hand(await chromium.newPage());
  await firstVisit();
  await company();
}, 90_000);
afterAll(async () => {
  await chromium.close();
  await night.stop();
});

async function firstVisit(): Promise<void> {
  await admin.page.goto(night.address);
  await admin.types('#code', night.firstAdministratorCode);
  await admin.types('#company', 'Lantern Boats');
  await admin.types('#name', 'Ada Admin');
  await admin.types('#login', 'ada');
  await admin.types('#password', password);
  await admin.presses('Make the first administrator');
  await admin.sees('Nobody takes calls yet');
}

/** A request of the signed-in page. */
function send(path: string, body: object, page: Page = admin.page): Promise<Record<string, never>> {
  return page.evaluate(
    async (url, text) => {
      const { token } = (await (await fetch('/api/session')).json()) as { token: string };
      const answer = await fetch(url, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-night-bell-token': token },
        body: text,
      });
      if (!answer.ok) throw new Error(`${url}: ${await answer.text()}`);
      return (answer.status === 204 ? {} : await answer.json()) as Record<string, never>;
    },
    path,
    JSON.stringify(body),
  );
}

/** One of everything, so that every list has a row and every sheet something to show. */
async function company(): Promise<void> {
  const { id: teamId } = await send('/api/teams', { name: 'Bookings' });
  const { id: person } = await send('/api/people', { name: 'Ann Lee', teamId });
  const { id: queue } = await send('/api/queues', { name: 'Front', members: [person] });
  await send('/api/numbers', {
    e164: '+12065550140',
    label: 'Main',
    destination: { kind: 'queue', id: queue },
  });
  await send('/api/numbers', { e164: '+12065550141', label: 'Spare' });
  await send('/api/rooms', { name: 'Briefing', extension: '5001' });
  await send('/api/campaigns', { name: 'Winter timetable' });
  await send('/api/prompts', {
    ...{ name: 'Welcome', kind: 'greeting', language: 'en', personId: null, words: 'Welcome aboard.' },
    translationOf: null,
  });
  await send('/api/opt-outs', { text: '+1 360 555 0117' });
}

/** What axe finds, of any impact, as sentences. */
async function found(page: Page): Promise<string[]> {
  // What fades in is looked at when it has come to rest; what moves for as long as it is shown never does.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((each) => each.effect?.getComputedTiming().iterations !== Infinity)
        .map((each) => each.finished.catch(() => null)),
    ),
  );
  const { violations } = await new AxePuppeteer(page)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .analyze();
  return violations.flatMap(({ id, help, nodes }) =>
    nodes.map(({ target, html }) => `${id}: ${help}: ${String(target)} ${html.slice(0, 120)}`),
  );
}

async function goes(hand: Hand, path: string): Promise<void> {
  await hand.page.goto(night.address + path);
  await hand.page.waitForSelector('main h1');
  await isRead(hand.page);
}

/** Nothing on the page says any more that it is being read. */
async function isRead(page: Page): Promise<void> {
  await page.waitForFunction(() => !/Reading the|Asking\./.test(document.querySelector('main')!.textContent));
}

async function theme(hand: Hand, name: 'day' | 'night'): Promise<void> {
  await hand.page.evaluate((to) => localStorage.setItem('night-bell-theme', to), name);
}

const lists = [
  ...['/', '/people', '/trunks', '/dialling', '/numbers', '/answering', '/hours', '/prompts', '/queues'],
  ...['/destinations', '/voicemail', '/sources', '/floor', '/calls', '/desk', '/changes'],
  // Built like others above: looked at when there is time (NIGHT_BELL_ALL_VIEWS=yes).
  ...(process.env.NIGHT_BELL_ALL_VIEWS === undefined
    ? []
    : [
        ...['/records', '/campaigns', '/opt-outs', '/blocked', '/codes', '/script-keys', '/stand-ins'],
        '/set-aside',
      ]),
];
const withRows = ['/people', '/queues', '/numbers', '/destinations', '/prompts'];

test.each(['day', 'night'] as const)(
  'no view breaks a rule, by %s',
  async (name) => {
    await theme(admin, name);
    // By night what differs is colour: the views with the most of it.
    for (const path of name === 'day' ? lists : ['/', '/people', '/numbers', '/calls', '/floor', '/desk']) {
      await goes(admin, path);
      expect(await found(admin.page), path).toEqual([]);
    }
  },
  90_000,
);

test('no sheet, menu or dialog breaks a rule; opened by keys, they have the focus, and closed they give it back', async () => {
  await theme(admin, 'day');
  const { page } = admin;
  const focused = () =>
    page.evaluate(() => {
      const at = document.activeElement!;
      return at.closest('.sheet') !== null ? 'sheet' : at.matches('[data-list]') ? 'list' : at.tagName;
    });
  for (const path of withRows) {
    await goes(admin, path);
    expect([path, await focused()]).toEqual([path, 'list']);
    await page.waitForSelector('tbody tr td');
    await page.keyboard.press('ArrowDown');
    expect(await page.$('.sheet'), 'arrows do not open').toBeNull();
    await page.keyboard.press('Enter');
    await page.waitForSelector('.sheet');
    await isRead(page);
    expect([path, await focused()]).toEqual([path, 'sheet']);
    expect(await found(page), `${path}, opened`).toEqual([]);
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => document.querySelector('.sheet') === null);
    expect([path, await focused()]).toEqual([path, 'list']);
  }
  await page.keyboard.press('n');
  await page.waitForSelector('.sheet input');
  expect(await found(page), 'a new prompt').toEqual([]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('?');
  await page.waitForSelector('.help h2');
  expect(await found(page), 'help').toEqual([]);
  await page.keyboard.press('Escape');
  await goes(admin, '/people');
  await admin.presses('Download');
  await page.waitForSelector('.v-list-item');
  expect(await found(page), 'a menu').toEqual([]);
  await page.keyboard.press('Escape');
  await admin.presses('View');
  await page.waitForFunction(() => document.activeElement?.closest('[role="dialog"]') !== null);
  expect(await found(page), 'how a list is looked at').toEqual([]);
  await page.keyboard.press('Escape');
  await page.focus('.self');
  await page.keyboard.press('Enter');
  await page.waitForSelector('#own-locale');
  expect(await found(page), 'own settings').toEqual([]);
  await page.keyboard.press('Escape');
  await page.waitForFunction(() => document.activeElement?.matches('.self') === true);
}, 90_000);

test('a wrong field is marked, has its sentence and the focus', async () => {
  const { page } = admin;
  await goes(admin, '/numbers');
  await page.keyboard.press('n');
  await admin.types('#number-digits', '12');
  await admin.presses('Enter this number');
  await page.waitForSelector('#number-digits[aria-invalid="true"]');
  await page.waitForFunction(() => document.activeElement?.id === 'number-digits');
  const described = await page.$eval(
    '#number-digits',
    (field) => document.getElementById(field.getAttribute('aria-describedby')!)!.textContent,
  );
  expect(described).toMatch(/number/i);
  await page.keyboard.press('Escape');
}, 30_000);

test('each role’s own views break no rule either', async () => {
  for (const role of ['agent', 'auditor'] as const) {
    const made = (await send('/api/people', { name: `A ${role}`, role })) as unknown as {
      login: string;
      signInCode: string;
    };
    const context = await chromium.createBrowserContext();
    const hand = new Hand(await context.newPage());
    await hand.page.goto(night.address);
    await hand.page.waitForSelector('#login');
    expect(await found(hand.page), 'sign-in').toEqual([]);
    await hand.types('#login', made.login);
    await hand.types('#password', made.signInCode);
    await hand.presses('Sign in');
    await hand.sees('A password of your own');
    expect(await found(hand.page), 'own password').toEqual([]);
    await hand.types('#password', password);
    await hand.types('#again', password);
    await hand.presses('Save and go on');
    await hand.page.waitForSelector('main h1');
    for (const path of role === 'agent' ? ['/desk', '/calls'] : ['/', '/changes']) {
      await goes(hand, path);
      expect(await found(hand.page), `${role}: ${path}`).toEqual([]);
    }
    await context.close();
  }
}, 120_000);

test('at 400 px, and at 200 %, nothing is wider than the window and a list still shows rows', async () => {
  const { page } = admin;
  for (const [width, height] of [
    [400, 800],
    [640, 400],
    [1024, 500],
  ] as const) {
    await page.setViewport({ width, height });
    for (const path of ['/people', '/numbers', '/calls', '/']) {
      await goes(admin, path);
      const { wider, rows } = await page.evaluate(() => ({
        wider: document.documentElement.scrollWidth - innerWidth,
        rows: [...document.querySelectorAll('tbody tr')].filter((row) => {
          const { top, bottom } = row.getBoundingClientRect();
          return top >= 0 && bottom <= innerHeight && bottom > top;
        }).length,
      }));
      expect([path, width, wider <= 0], String(wider)).toEqual([path, width, true]);
      if (path === '/people') expect([width, height, rows > 0]).toEqual([width, height, true]);
    }
  }
  await page.setViewport({ width: 1280, height: 800 });
}, 60_000);
