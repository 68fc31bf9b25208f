import type { Profile } from '@night-bell/core/rehearse/behaviour';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { Hand, type Started, startChromium, startNightBell } from './browser.testing.ts';

let night: Started;
let chromium: Browser;
let admin: Hand;
let agent: Hand;
let code = '';

const password = 'the bell rings at night';

/** Callers who wait and contacts who are people at home: what is tested is not their luck. */
const patient: Partial<Profile> = {
  patienceSeconds: 100_000,
  talkSeconds: 600,
  talkVariation: 0.01,
  contactIsPerson: 1,
  contactLiftsSeconds: 2,
  contactHangsUp: 0,
  contactOptsOut: 0,
};

beforeAll(async () => {
  [night, chromium] = await Promise.all([startNightBell(patient), startChromium()]);
  admin = new Hand(await chromium.newPage());
  agent = new Hand(await (await chromium.createBrowserContext()).newPage());
});
afterAll(async () => {
  await chromium?.close();
  await night?.stop();
});

test('an administrator makes an agent, a queue, a trunk and a number', async () => {
  const { page } = admin;
  await page.goto(night.address);
  await admin.types('#code', night.firstAdministratorCode);
  await admin.types('#company', 'Lantern Boats');
  await admin.types('#name', 'Ada Admin');
  await admin.types('#login', 'ada');
  await admin.types('#password', password);
  await admin.presses('Make the first administrator');
  await admin.sees('Nobody takes calls yet');
  await admin.goes('people', 'People');
  await page.keyboard.press('n');
  await admin.types('#person-name', 'Dee Desk');
  await admin.presses('Make Dee Desk');
  await admin.sees('Shown this once', '.sheet');
  code = await page.$eval('.secrets code', (element) => element.textContent ?? '');
  await page.keyboard.press('Escape');
  await page.keyboard.press('n');
  await admin.types('#person-name', 'Bo Colleague');
  await admin.presses('Make Bo Colleague');
  await admin.sees('Registered', 'tbody');
  await admin.goes('queues', 'Queues');
  await page.keyboard.press('n');
  await admin.types('#queue-name', 'Reminders');
  await admin.chooses('input[aria-label="Add a person or a team"]', 'Dee Desk');
  await admin.presses('Make this queue');
  await admin.sees('Reminders is made');
  await admin.goes('trunks', 'Trunks');
  await page.keyboard.press('n');
  await admin.types('#trunk-name', 'Mainland lines');
  await admin.types('#trunk-account', 'lantern');
  await admin.presses('Make this trunk');
  await admin.sees('Open', 'tbody');
  await admin.goes('numbers', 'Numbers');
  await page.keyboard.press('n');
  await admin.types('#number-digits', '(206) 555-0140');
  await admin.types('#number-label', 'Main line');
  await admin.chooses('#number-destination', 'Reminders');
  await admin.chooses('#number-source', 'Harbour poster');
  await admin.presses('Enter this number');
  await admin.sees('Main line', 'tbody');
});

test('a list is looked at before it is kept; what cannot be called is named', async () => {
  const { page } = admin;
  await admin.goes('campaigns', 'Campaigns');
  await page.keyboard.press('n');
  await admin.types('#campaign-name', 'Winter timetable');
  await page.keyboard.press('Enter');
  await admin.sees('It still needs a queue, a trunk, a caller ID, a contact list');
  await admin.chooses('#campaign-queueId', 'Reminders');
  await admin.chooses('#campaign-trunkId', 'Mainland lines');
  await admin.chooses('#campaign-numberId', 'Main line');
  await admin.types('#campaign-script', 'Good day {{ contact.first_name }}, fare {{ contact.fare }}.');
  await admin.presses('Save');
  await admin.sees('Winter timetable is saved');
  await admin.presses('Contacts');
  await admin.presses('Bring a list');
  const rows = Array.from(
    { length: 60 },
    (_, i) => `Pat;Contact ${i};+1 360 555 01${String(i).padStart(2, '0')};12.50`,
  );
  const text = ['First name;Surname;Phone;Fare', ...rows, 'Bad;Row;360 555;1'].join('\n');
  await page.waitForSelector('#import-text');
  await page.$eval(
    '#import-text',
    (field, value) => {
      (field as HTMLTextAreaElement).value = value;
      field.dispatchEvent(new Event('input'));
    },
    text,
  );
  await admin.presses('Look at it');
  await admin.sees('60 can be called', '.sheet');
  await admin.sees('1 left out: not a phone number', '.sheet');
  await admin.presses('Add 60 contacts');
  await admin.sees('60 contacts added, 1 row left out');
  await admin.sees('Pat Contact 3', 'tbody');
});

test('at the desk the page becomes the phone, and a caller is answered, with what is known of them', async () => {
  const { page } = agent;
  await page.goto(night.address);
  await agent.types('#login', 'dee.desk');
  await agent.types('#password', code);
  await agent.presses('Sign in');
  await agent.sees('A password of your own');
  await agent.types('#password', password);
  await agent.types('#again', password);
  await agent.presses('Save and go on');
  await agent.sees('Desk', 'main h1');
  await agent.presses('This page');
  await agent.sees('This page is your phone');
  await agent.sees('Available', 'main header');
  await admin.types('#test-to', '+1 206 555 0140');
  await admin.page.keyboard.press('Enter');
  await admin.sees('Dee Desk would answer', '.bar');
  await admin.presses('Place it live');
  await agent.sees('Answer', '.handset');
  await page.keyboard.press('a');
  await agent.sees('Hang up', '.handset');
  await agent.sees('came by Harbour poster');
  // Loaded again in the middle of the call, the page has it back.
  await page.reload();
  await agent.sees('Hang up', '.handset');
  await agent.presses('Dealt with');
  await page.keyboard.press('h');
  await agent.sees('Wrap-up', '.handset');
  await agent.presses('Save and go on');
  await agent.sees('Dealt with', 'aside');
  await admin.sees('own page', '.went');
});

test('a caller is told of to a colleague by keys alone, and put through; the call says so', async () => {
  const { page } = agent;
  await agent.sees('Available', 'main header');
  await admin.types('#test-to', '+1 206 555 0140');
  await admin.page.keyboard.press('Enter');
  await admin.sees('Dee Desk would answer', '.bar');
  await admin.presses('Place it live');
  await agent.sees('Answer', '.handset');
  await page.keyboard.press('a');
  await agent.sees('Hand over', '.handset');
  await page.keyboard.press('o');
  await agent.types('#hand-over-to', 'Bo');
  await page.waitForFunction(() =>
    document.querySelector('.v-overlay .v-list-item')?.textContent.includes('Bo Colleague'),
  );
  await page.keyboard.press('Enter');
  await page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLButtonElement>('.hand-over button')].some(
      (button) => button.textContent.startsWith('Tell them first') && !button.disabled,
    ),
  );
  await page.keyboard.press('Enter');
  await agent.sees('waits while', '.handset');
  await page.keyboard.press('h');
  await agent.sees('Wrap-up', '.handset');
  await admin.sees('Bo Colleague', '.went');
  await agent.presses('Save and go on');
});

test('the campaign dials while the agent is free; the page lifts by itself and shows the script', async () => {
  await admin.goes('campaigns', 'Campaigns');
  await admin.opens('Winter timetable');
  await admin.presses('Start dialling');
  await admin.sees('Running', 'main header');
  const hour = Number(
    new Intl.DateTimeFormat('en-GB', { hour: 'numeric', timeZone: 'America/Los_Angeles' }).format(new Date()),
  );
  if (hour < 8 || hour >= 21) {
    // The contacts' own clock forbids it: then nobody is called, and that is what the page says.
    await admin.sees('0 in the air');
    return;
  }
  await agent.sees('Winter timetable', '.call', 60);
  await agent.sees('Good day Pat, fare 12.50.', '.script');
  await admin.presses('Pause dialling');
  await admin.sees('Paused', 'main header');
}, 120_000);

test('no page threw an error', () => {
  expect([...admin.complaints, ...agent.complaints]).toEqual([]);
});
