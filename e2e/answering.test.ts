import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Hand, type Started, startChromium, startNightBell } from './browser.testing.ts';

let night: Started;
let chromium: Browser;
let admin: Hand;

beforeAll(async () => {
  [night, chromium] = await Promise.all([
    // Callers who do press a key, and wait.
    startNightBell({
      patienceSeconds: 100_000,
      pressesNothing: 0,
      pressesFirst: 1,
      leavesNoMessage: 0,
      messageSeconds: 1,
    }),
    startChromium(),
  ]);
  admin = new Hand(await chromium.newPage());
});
afterAll(async () => {
  await chromium?.close();
  await night?.stop();
});

/** Writes a prompt on the spot, in the sheet of the chosen step. */
async function writes(name: string, words: string): Promise<void> {
  await admin.presses('Write a new one');
  await admin.types('input[aria-label="Name of the new prompt"]', name);
  await admin.types('textarea[aria-label="Words of the new prompt"]', words);
  await admin.presses('Make it');
  await admin.sees(words, '.step-sheet');
}
const leads = (exit: string, target: string) => admin.chooses(`#exit-${exit}`, target);
/** Makes what a field names, by its name alone, where it is asked for. */
async function makes(link: string, thing: string, name: string): Promise<void> {
  await admin.presses(link);
  await admin.types(`input[aria-label="Name of the new ${thing}"]`, name);
  await admin.presses('Make it');
  await admin.page.waitForFunction(
    (label) => document.querySelector(`input[aria-label="${label}"]`) === null,
    {},
    `Name of the new ${thing}`,
  );
}
const looks = async (as: 'list' | 'picture') => {
  await admin.page.waitForSelector('.looks');
  await admin.page.$eval(`.looks input[value=${as}]`, (input) => (input as HTMLElement).click());
};
const choosesStep = (words: string) =>
  admin.page.$$eval(
    '.row.step',
    (rows, wanted) => (rows.find((row) => row.textContent?.includes(wanted)) as HTMLElement).click(),
    words,
  );

test('hours are drawn and kept', async () => {
  const { page } = admin;
  await page.goto(night.address);
  await admin.types('#code', night.firstAdministratorCode);
  await admin.types('#company', 'Lantern Boats');
  await admin.types('#name', 'Ada Admin');
  await admin.types('#login', 'ada');
  await admin.types('#password', 'the bell rings at night');
  await admin.presses('Make the first administrator');
  await admin.sees('Nobody takes calls yet');
  await admin.goes('hours', 'Opening hours');
  await admin.sees('No hours yet. Every plan is always open.');
  await page.keyboard.press('n');
  await admin.types('input[aria-label="Name"]', 'Every day');
  for (const day of ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']) {
    await page.click(`button[aria-label="Add a range on ${day}"]`);
    await admin.types('input[aria-label="Opens at"]', '0');
    await page.keyboard.press('Tab');
    await admin.types('input[aria-label="Closes at"]', '24:00');
    await page.keyboard.press('Tab');
  }
  await admin.presses('Make set');
  await admin.sees('Every day is made');
  await admin.sees('Open', '.sets');
});

test('a plan with hours, a menu and voicemail is built without leaving it, and checked while it grows', async () => {
  const { page } = admin;
  await admin.goes('people', 'People');
  await page.keyboard.press('n');
  await admin.types('#person-name', 'Dee Desk');
  await admin.presses('Make Dee Desk');
  await admin.sees('Shown this once', '.sheet');
  await admin.goes('answering', 'Answering');
  await page.keyboard.press('n');
  await admin.types('#plan-name', 'Front line');
  await admin.presses('Make this plan');
  await admin.sees('No steps yet');
  await admin.presses('Hours');
  await admin.sees('Choose the opening hours');
  await admin.chooses('#step-hoursId', 'Every day');
  await admin.sees('“open” leads nowhere');
  await leads('open', 'New step: Keys');
  await admin.sees('Step 2', '.step-sheet');
  await looks('list');
  await writes('Menu', 'For a message to Dee, press 1. For the sailings, press 2.');
  await admin.presses('Add a key');
  await admin.sees('The words speak of 2, which is no key here', '.step-sheet');
  await admin.presses('Add a key');
  await leads('key1', 'New step: Voicemail');
  await admin.chooses('#step-boxId', 'Dee Desk');
  await choosesStep('Ask Menu');
  await leads('key2', 'New step: Say');
  await writes('Sailings', 'All boats sail today.');
  await leads('next', 'Ask Menu');
  await choosesStep('Ask Menu');
  await leads('noKey', 'Take a message');
  await choosesStep('Ask the hours');
  await leads('closed', 'Take a message');
  await page.waitForFunction(() => !document.body.textContent?.includes('publishing'));
  await admin.presses('Publish');
  await admin.sees('Callers meet version 1 of Front line from now on');
  expect(admin.complaints).toEqual([]);
});

test('a number leads there; a caller presses a key, and their whole path can be read', async () => {
  const { page } = admin;
  await admin.goes('numbers', 'Numbers');
  await page.keyboard.press('n');
  await admin.types('#number-digits', '(206) 555-0140');
  await admin.types('#number-label', 'Main line');
  await admin.chooses('#number-destination', 'Front line');
  await admin.presses('Enter this number');
  // Its sheet has the keys first.
  await admin.sees('Main line', '.sheet header');
  await admin.types('#test-to', '+1 206 555 0140');
  await admin.types('#test-keys', '21');
  await page.keyboard.press('Enter');
  await admin.sees('Dee Desk', '.bar .outcome');
  await admin.presses('Place it live');
  await admin.sees('Open', 'main');
  await admin.sees('Heard Menu', 'main');
  await admin.sees('Pressed 1', 'main', 30);
  await admin.sees('voicemail', 'main', 30);
  expect(admin.complaints).toEqual([]);
});

test('from a new number to a call answered by a menu with hours and voicemail, in its one sheet', async () => {
  const { page } = admin;
  const began = Date.now();
  await admin.goes('numbers', 'Numbers');
  await page.keyboard.press('n');
  await admin.types('#number-digits', '+1 206 555 0141');
  await admin.types('#number-label', 'Boat line');
  await admin.presses('Enter this number');
  await admin.presses('Build what callers meet');
  await admin.sees('Menu by day, message by night');
  await admin.chooses('#step-s1-hoursId', 'Every day');
  await admin.chooses('#step-s2-promptId', 'Sailings');
  await admin.chooses('#step-s3-promptId', 'Menu');
  await makes('Make a new queue', 'queue', 'Bookings');
  await admin.chooses('#step-s5-queueId', 'Bookings');
  await admin.chooses('#step-s6-queueId', 'Bookings');
  await admin.chooses('#step-s7-promptId', 'Sailings');
  await makes('Make a new voicemail box', 'voicemail box', 'After hours');
  await admin.sees('a call through it', '.builder');
  await admin.presses('Publish, and lead the number there');
  await admin.sees('Open its steps', '.sheet');
  await admin.sees('What would happen');
  // Its panel lies over the foot of the page.
  await admin.presses('Close');
  await admin.presses('Place it live');
  await admin.sees('Heard Menu', 'main', 30);
  // Nobody is signed in to Bookings: the caller leaves a message in its box.
  await admin.sees('Bookings voicemail', 'main', 30);
  expect(Date.now() - began).toBeLessThan(180_000);
  expect(admin.complaints).toEqual([]);
});

test('the message is at the desk a moment later, is heard, and says so in the history', async () => {
  const { page } = admin;
  await admin.goes('desk', 'Desk');
  await admin.sees('1 new', '.desk-messages', 40);
  await page.waitForSelector('.desk-messages [role=option]');
  await page.$eval('.desk-messages [role=option]', (row) => (row as HTMLElement).click());
  await page.waitForSelector('.desk-messages .play', { timeout: 20_000 });
  await page.click('.desk-messages .play');
  await admin.sees('Mark new', '.desk-messages', 20);
  await admin.presses('Delete');
  await admin.sees('1 message deleted', '.desk-messages');
  await admin.presses('Bring back');
  await page.waitForFunction(() => !document.body.textContent.includes('message deleted'));
  await page.goto(`${night.address}/voicemail`);
  await admin.opens('Bookings');
  await admin.presses('History');
  await admin.sees('Heard the message of +1 360 555 0117 by Ada Admin', '.sheet');
  expect(admin.complaints).toEqual([]);
});

test('yesterday’s version is back with two presses', async () => {
  const { page } = admin;
  await admin.goes('answering', 'Answering');
  await page.waitForSelector('tbody tr');
  await admin.opens('Front line');
  await admin.sees('Front line', 'main h1');
  await choosesStep('Say Sailings');
  await admin.presses('Take out');
  await admin.presses('Publish');
  await admin.sees('Callers meet version 2');
  await admin.chooses('#plan-beside', 'version 1');
  await admin.sees('taken out since');
  await looks('picture');
  // Both are drawn, one below the other.
  await page.waitForFunction(() => document.querySelectorAll('.picture [role=tree]').length === 2);
  await admin.sees('taken out since', '.list');
  await looks('list');
  await admin.presses('Bring it back');
  await admin.sees('Say Sailings', '.plan-list');
  await admin.presses('Publish');
  await admin.sees('Callers meet version 3');
  expect(admin.complaints).toEqual([]);
});

test('in the picture, by keys alone: steps are tied in behind the chosen one, moved, folded and taken out', async () => {
  const { page } = admin;
  const key = (...keys: string[]) =>
    keys.reduce((so, each) => so.then(() => page.keyboard.press(each as 'a')), Promise.resolve());
  const chosen = () =>
    page.$eval('.picture [role=tree]', (tree) => {
      const item = document.getElementById(tree.getAttribute('aria-activedescendant') ?? '');
      return item?.getAttribute('aria-label') ?? '';
    });
  await looks('picture');
  await page.focus('.picture [role=tree]');
  await key('Home');
  await page.waitForFunction(() => document.querySelector('.step-sheet')?.textContent?.includes('Step 1'));
  expect(await chosen()).toContain('1. Ask the hours of Every day. open:');
  await key('ArrowRight');
  await admin.sees('Keys', '.step-sheet h2');
  await key('ArrowLeft', 'n');
  // The shelf opens; its first kind is taken.
  await page.waitForSelector('.v-list-item:focus');
  await key('Enter');
  await admin.sees('Step 3', '.step-sheet');
  await admin.sees('Say', '.step-sheet h2');
  await page.waitForSelector('.picture [role=tree]:focus');
  await page.keyboard.down('Alt');
  await key('ArrowLeft');
  await page.keyboard.up('Alt');
  await admin.sees('Step 1', '.step-sheet');
  await key('Delete');
  await admin.sees('Hours', '.step-sheet h2');
  // Into the fields, where a way is led on by typing, and back to the steps.
  await key('Home', 'Enter');
  await page.waitForSelector('.step-sheet input:focus');
  while ((await page.evaluate(() => document.activeElement?.id)) !== 'exit-holiday') await key('Tab');
  await page.keyboard.type('Take a message');
  await page.waitForFunction(() =>
    document.querySelector('.v-overlay--active .v-list-item')?.textContent.includes('Take a message'),
  );
  await key('Enter');
  await page.waitForFunction(() =>
    document.querySelector('.picture [role=treeitem]')?.getAttribute('aria-label')?.includes('a holiday: '),
  );
  await page.waitForSelector('.v-overlay--active', { hidden: true });
  await key('Escape');
  await page.waitForSelector('.picture [role=tree]:focus');
  const all = await page.$$eval('.picture [role=treeitem]', (items) => items.length);
  await key('ArrowRight', 'Space');
  await admin.sees('folded', '.picture');
  await key('Space');
  await page.waitForFunction(
    (count) => document.querySelectorAll('.picture [role=treeitem]').length === count,
    {},
    all,
  );
  expect(admin.complaints).toEqual([]);
});
