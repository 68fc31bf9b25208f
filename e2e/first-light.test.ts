import { AxePuppeteer } from '@axe-core/puppeteer';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Hand, type Started, startChromium, startNightBell } from './browser.testing.ts';

let night: Started;
let chromium: Browser;
let hand: Hand;
let callAddress: string;

const password = 'the bell rings at night';

beforeAll(async () => {
  [night, chromium] = await Promise.all([startNightBell(), startChromium()]);
  hand = new Hand(await chromium.newPage());
});
afterAll(async () => {
  await chromium?.close();
  await night?.stop();
});

const jump = (who: Hand, area: 'People' | 'Queues' | 'Numbers') => who.goes(area.toLowerCase(), area);

async function expectAccessible(): Promise<void> {
  const { violations } = await new AxePuppeteer(hand.page)
    .withTags(['wcag2a', 'wcag2aa'])
    .disableRules(['scrollable-region-focusable'])
    .analyze();
  expect(
    violations.map(
      (each) =>
        `${each.id}: ${each.nodes
          .slice(0, 3)
          .map((node) => node.html.slice(0, 140))
          .join(' | ')}`,
    ),
  ).toEqual([]);
}

test('the first visit of an empty installation makes the first administrator', async () => {
  await hand.page.goto(night.address);
  await hand.types('#code', 'AAAAA-BBBBB');
  await hand.types('#company', 'Lantern Boats');
  await hand.types('#name', 'Ada Admin');
  await hand.types('#login', 'ada');
  await hand.types('#password', password);
  await hand.presses('Make the first administrator');
  await hand.sees('That is not the code in the terminal');
  await hand.types('#code', night.firstAdministratorCode);
  await hand.presses('Make the first administrator');
  await hand.sees('Nobody takes calls yet');
  await expectAccessible();
});

test('a person is made from a name and a team; a stand-in phone enrols, registers and signs them in', async () => {
  await jump(hand, 'People');
  await hand.page.keyboard.press('n');
  await hand.types('#person-name', 'Ines Calloway');
  await hand.chooses('#person-team', 'Bookings');
  await hand.sees('Extension', '.sheet');
  await hand.page.waitForFunction(
    () => (document.querySelector('#person-team') as HTMLInputElement).value === 'Bookings',
  );
  await hand.presses('Make Ines Calloway');
  await hand.sees('Shown this once', '.sheet');
  // The row changes by itself once the phone has registered.
  await hand.sees('Registered', 'tbody');
  await hand.sees('Available', 'tbody');
  await expectAccessible();
});

test('a taken extension is told at its field and nothing typed is lost', async () => {
  await hand.page.keyboard.press('Escape');
  await hand.page.keyboard.press('n');
  await hand.types('#person-name', 'Oskar Lindmark');
  await hand.types('#person-extension', '911');
  await hand.presses('Make Oskar Lindmark');
  await hand.sees('emergency number 911', '.sheet');
  expect(await hand.page.$eval('#person-name', (input) => (input as HTMLInputElement).value)).toBe(
    'Oskar Lindmark',
  );
  await hand.types('#person-extension', '2105');
  await hand.presses('Make Oskar Lindmark');
  await hand.sees('Shown this once', '.sheet');
});

test('a number is entered and its queue made right there; the test call names who would be rung', async () => {
  await jump(hand, 'Numbers');
  await hand.page.keyboard.press('n');
  await hand.types('#number-digits', '(206) 555-0140');
  await hand.types('#number-label', 'Main line');
  await hand.chooses('#number-destination', 'Make a new queue');
  await hand.types('input[aria-label="Name of the new queue"]', 'Bookings desk');
  await hand.presses('Make it');
  await hand.page.waitForFunction(
    () => document.querySelector('input[aria-label="Name of the new queue"]') === null,
  );
  await hand.presses('Enter this number');
  await hand.sees('Main line', 'tbody');
  await jump(hand, 'Queues');
  await hand.opens('Bookings desk');
  await hand.chooses('input[aria-label="Add a person or a team"]', 'Ines Calloway');
  await hand.presses('Save');
  await hand.sees('Bookings desk is saved.');
  await hand.types('#test-to', '+1 206 555 0140');
  await hand.page.keyboard.press('Enter');
  await hand.sees('Ines Calloway would answer', '.bar');
  await hand.presses('Explain');
  await hand.sees('Idle', '.panel');
  await expectAccessible();
});

test('placed live, the call is followed, and afterwards anybody reads who handled it and why', async () => {
  await hand.page.keyboard.press('Escape');
  await hand.presses('Place it live');
  await hand.page.waitForFunction(() => location.pathname.startsWith('/calls/'));
  await hand.sees('Ines Calloway answered', '.went');
  await hand.sees('Why Ines Calloway', '.why');
  callAddress = hand.page.url();
  await expectAccessible();
});

test('a crash in the middle of the call: the page says so, comes back by itself, and the call goes on', async () => {
  const said = hand.sees('Night Bell is not answering', '.away');
  await night.crash();
  await said;
  await hand.page.waitForFunction(() => document.querySelector('.away') === null);
  await hand.page.goto(callAddress);
  await hand.sees('Ines Calloway answered', '.went');
});

test('two people edit the same queue: the second sees both versions and loses nothing', async () => {
  const other = new Hand(await (await chromium.createBrowserContext()).newPage());
  await other.page.goto(night.address);
  await other.types('#login', 'ada');
  await other.types('#password', password);
  await other.presses('Sign in');
  for (const each of [hand, other]) {
    await jump(each, 'Queues');
    await each.opens('Bookings desk');
    await each.page.waitForSelector('input[aria-label="Seconds each is rung"]');
  }
  await other.types('input[aria-label="Seconds of wrap-up"]', '45');
  await hand.types('input[aria-label="Seconds each is rung"]', '25');
  await hand.presses('Save');
  await hand.sees('is saved');
  await other.presses('Save');
  await other.sees('changed this while you were at it', '.sheet');
  await other.presses('Save mine over theirs');
  await other.sees('is saved');
  await other.page.close();
});

test('a pasted list is mended in place and made at once, with codes to hand out', async () => {
  const { page } = hand;
  await jump(hand, 'People');
  await page.keyboard.press('m');
  await hand.types(
    'textarea[aria-label="Rows"]',
    'name;team;extension\nBo Ray;Night crew;2701\nCy Lee;Night crew;911',
  );
  await hand.presses('Look at them');
  await hand.sees('1 to mend');
  await hand.sees('emergency number 911', 'tbody');
  await hand.types('input[aria-label="extension of row 2"]', '2702');
  await page.keyboard.press('Tab');
  await hand.presses('Make 2 people');
  await hand.sees('2 people have codes');
  await hand.sees('bo.ray', 'tbody');
  await hand.presses('I have them, hide them');
  await hand.sees('Cy Lee', 'tbody');
  await expectAccessible();
});

test('no page threw an error', () => {
  expect(hand.complaints).toEqual([]);
});
