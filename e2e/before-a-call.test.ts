import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Hand, type Started, startChromium, startNightBell } from './browser.testing.ts';

let night: Started;
let chromium: Browser;
let admin: Hand;

beforeAll(async () => {
  [night, chromium] = await Promise.all([startNightBell(), startChromium()]);
  admin = new Hand(await chromium.newPage());
});
afterAll(async () => {
  await chromium?.close();
  await night?.stop();
});

test('people get desk phones that a stand-in registers', async () => {
  const { page } = admin;
  await page.goto(night.address);
  await admin.types('#code', night.firstAdministratorCode);
  await admin.types('#company', 'Lantern Boats');
  await admin.types('#name', 'Ada Admin');
  await admin.types('#login', 'ada');
  await admin.types('#password', 'the bell rings at night');
  await admin.presses('Make the first administrator');
  await admin.sees('Nobody takes calls yet');
  await admin.goes('people', 'People');
  for (const name of ['Wren Watcher', 'Quill Watched']) {
    await page.keyboard.press('n');
    await admin.types('#person-name', name);
    await admin.chooses('#person-model', 'Desk phone with 4 keys');
    await admin.presses(`Make ${name}`);
    await admin.sees('Shown this once', '.sheet');
    await page.keyboard.press('Escape');
    await admin.sees(name, 'tbody');
  }
});

test('a key watches a colleague, is saved, pressed, and told on the colleague’s sheet', async () => {
  await admin.opens('Wren Watcher');
  await admin.presses('Phones');
  await admin.chooses('#key-person', 'Quill Watched');
  await admin.types('#key-label', 'Quill at the quay');
  await admin.presses('Save the keys');
  await admin.sees('The keys are saved');
  await admin.page.reload();
  await admin.presses('Phones');
  await admin.sees('Quill at the quay', '.device');
  await admin.presses('Press it: calls them');
  await admin.sees('It calls Quill Watched');
  await admin.goes('people', 'People');
  await admin.opens('Quill Watched');
  await admin.sees('Quill Watched', '.sheet h2');
  await admin.presses('Used by');
  await admin.sees('line key', '.sheet');
});

test('a dialling rule is tried while it is written, and decides once it is made', async () => {
  const { page } = admin;
  await admin.goes('trunks', 'Trunks');
  await page.keyboard.press('n');
  await admin.types('#trunk-name', 'Mainland lines');
  await admin.types('#trunk-account', 'lantern');
  await admin.presses('Make this trunk');
  await admin.sees('Open', 'tbody');
  await admin.goes('dialling', 'Dialling');
  await page.keyboard.press('n');
  await admin.types('#rule-name', 'Across the sound');
  await admin.types('#rule-pattern', 'Nxx[');
  await admin.presses('Make this rule');
  await page.waitForSelector('.field.faulty');
  await admin.types('#rule-pattern', 'NxxNxxxxxx');
  await admin.types('input[aria-label="What is put in front"]', '+1');
  await admin.chooses('input[aria-label="Add a trunk"]', 'Mainland lines');
  await admin.presses('Make this rule');
  await admin.sees('Across the sound', 'tbody');
  await page.keyboard.press('Escape');
  await admin.types('input[aria-label="What is dialled"]', '2065550140');
  await admin.sees('+12065550140 over Mainland lines');
  await admin.types('input[aria-label="What is dialled"]', '911');
  await admin.sees('A call for help');
  expect(admin.complaints).toEqual([]);
});
