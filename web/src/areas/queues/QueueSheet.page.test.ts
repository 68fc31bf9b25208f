// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { QueueView } from '@night-bell/core/contracts/queues';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import { useLive } from '../../shell/live.ts';
import { queueArea } from './words.ts';
import QueueSheet from './QueueSheet.vue';

let page: OpenPage;
afterEach(() => page.close());

const ines = '01890000-0000-7000-8000-00000000000a';
const crew = '01890000-0000-7000-8000-00000000000b';
const queue = (more: Partial<QueueView> = {}): QueueView =>
  ({
    ...{
      id: 'q',
      version: 5,
      retired: false,
      name: 'Bookings',
      extension: '700',
      priority: 3,
      ringSeconds: 20,
    },
    ...{ wrapUpSeconds: 15, members: [ines, crew], skills: [], maxWaiting: null, whenFull: { kind: 'end' } },
    ...{
      maxWaitSeconds: null,
      whenTooLong: { kind: 'end' },
      whenNobody: null,
      hoursId: null,
      whenClosed: null,
    },
    ...{ distribution: 'longestIdle', turns: [], ringsAtMost: 10 },
    ...{
      atClosing: 'serve',
      preferOwner: false,
      script: '',
      outcomes: [],
      voicemailBoxId: 'b',
      peopleCount: 4,
    },
    ...{ joins: [], whenAllAway: null, leaveKey: null, whenLeaves: { kind: 'end' }, keepsTime: [] },
    ...{ agePoints: 0, agesAcross: false, recordPriorities: [], ringsAway: [], ringsInWrapUp: false },
    ...{ mostTexts: null, musicId: null, announceSeconds: null, announcementId: null, tellsPlace: false },
    ...{
      callBack: null,
      tellsWait: false,
      phoneShows: ['queue', 'caller'],
      goalPercent: 80,
      goalSeconds: 20,
    },
    ...more,
  }) as QueueView;
const entries = [
  { id: ines, kind: 'person', name: 'Ines Calloway', extension: '2104', second: null, retired: false },
  { id: crew, kind: 'team', name: 'Crew', extension: null, second: null, retired: false },
];
const open = async (item: QueueView | null, answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    QueueSheet,
    {
      ...{ 'GET /api/queues/q': { item, usedBy: [] }, 'GET /api/items/q/history': [], 'GET /api/skills': [] },
      ...{ 'GET /api/teams': [{ id: crew, name: 'Crew', version: 1, retired: false, people: 12 }] },
      ...{ 'GET /api/opening-hours': [{ id: 'h', name: 'Terminal', version: 1, retired: false }] },
      'GET /api/directory': entries,
      'GET /api/agent-settings': { version: 1, seats: null, seatsUsed: 4, awayReasons: ['break', 'meeting'] },
      'GET /api/record-fields': ['record.name', 'record.tier'],
      'POST /api/queues/fit': { stages: [{ afterSeconds: 0, fits: 13, here: 5 }] },
      'GET /api/queues': item === null ? [] : [item],
      ...answers,
    },
    { props: { item }, role },
  );
  await page.settled();
};

/** What was saved; who fits is only asked. */
const saved = () => page.sent.find(({ method }) => method === 'PUT')!;

test('limits bring where callers go then, and an empty one takes it away', async () => {
  await open(queue());
  expect(page.text()).not.toContain('When full');
  await page.fill('Callers that may wait', '12');
  await page.fill('Longest wait in seconds', '300');
  expect(page.text()).toContain('When full');
  expect(page.text()).toContain('Waited too long');
  await page.fill('Callers that may wait', '');
  expect(page.text()).not.toContain('When full');
});

test('opening hours bring what follows while closed and at closing', async () => {
  await open(queue(), { 'PUT /api/queues/q': queue({ version: 6 }) });
  expect(page.text()).not.toContain('While closed');
  await page.fill('Hours', 'Terminal');
  await page.fill('At closing', 'who waits goes there too');
  await page.press('Save');
  expect(saved()).toMatchObject({ version: '"5"', body: { hoursId: 'h', atClosing: 'sendOn' } });
});

test('members are people and teams by name, a team with its size; one is taken out', async () => {
  await open(queue(), { 'PUT /api/queues/q': queue() });
  expect(page.text()).toContain('Ines Calloway');
  expect(page.text()).toContain('team of 12');
  await page.press('Take Ines Calloway out');
  await page.press('Save');
  expect(saved().body).toMatchObject({ members: [crew] });
});

test('how many wait, are signed in and free stands beside its name', async () => {
  await open(queue());
  useLive().queues.set('q', {
    queueId: 'q',
    waiting: 3,
    offering: 1,
    longestSince: null,
    signedIn: 6,
    ...{ idle: 2, next: [] },
  });
  await page.settled();
  expect(page.text()).toContain('4 waiting');
  expect(page.text()).toContain('6 signed in, 2 free');
});

test('a new one says what comes with it, and a figure out of bounds is marked at its place', async () => {
  await open(null, {
    'POST /api/queues': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/ringSeconds', detail: 'From 5 to 120 seconds.' },
    ]),
  });
  expect(page.text()).toContain("leave a message in the queue's own voicemail box");
  await page.fill('Name', 'Refunds');
  await page.fill('Seconds each is rung', '2');
  await page.press(/^Make this/);
  expect(page.text()).toContain('From 5 to 120 seconds.');
  expect(document.getElementById('queue-ringSeconds')!.getAttribute('aria-invalid')).toBe('true');
});

test('a queue that always records asks for the notice and who may pause; history tells it in words', async () => {
  const kept = { recording: 'asPlan', recordingNoticeId: null, mayPause: 'talker' } as const;
  await open(queue(kept), { 'PUT /api/queues/q': queue({ ...kept, version: 6 }) });
  expect(page.text()).not.toContain('Notice');
  await page.fill('Talks are', 'always recorded');
  expect(page.text()).toContain('A caller who did not is not recorded.');
  await page.fill('May pause', 'supervisors only');
  await page.press('Save');
  expect(saved().body).toMatchObject({ recording: 'always', mayPause: 'supervisors' });
  const { show } = queueArea(() => 'Talks are recorded');
  expect(show('recording', 'never')).toBe('never recorded');
  expect(show('recordingNoticeId', 'p')).toBe('Talks are recorded');
  expect(show('mayPause', 'nobody')).toBe('nobody');
});

test('who is rung first is chosen; all at once says how many, and what becomes of one nobody takes', async () => {
  await open(queue(), { 'PUT /api/queues/q': queue({ version: 6 }) });
  expect(page.text()).not.toContain('ring together');
  await page.fill('Rings', 'everybody at once');
  await page.fill('Phones that ring together', '4');
  expect(page.text()).toContain('it rings them again after 5 s');
  await page.press('Save');
  expect(saved()).toMatchObject({ body: { distribution: 'allAtOnce', ringsAtMost: 4 } });
});

test('turns are given to members, and go with who is taken out', async () => {
  await open(queue(), { 'PUT /api/queues/q': queue({ version: 6 }) });
  await page.press('Ring some only when nobody else can be');
  await page.fill('Turn of Crew', '2');
  await page.fill('Turn of Ines Calloway', '3');
  expect(page.text()).toContain('a later one only when nobody of an earlier one can be');
  await page.press('Take Ines Calloway out');
  await page.press('Save');
  expect(saved()).toMatchObject({ body: { members: [crew], turns: [{ memberId: crew, turn: 2 }] } });
});

test('a turn that is none is said at the member', async () => {
  const fault = 'A turn is 1 to 9.';
  await open(queue({ turns: [{ memberId: crew, turn: 2 }] }), {
    'PUT /api/queues/q': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/turns/0/turn', detail: fault },
    ]),
  });
  await page.fill('Turn of Crew', 'two');
  await page.press('Save');
  expect(page.text()).toContain(fault);
});

test('ways out by a key and for all away; to another queue the time waited may count on', async () => {
  const other = { ...queue(), id: 'r', name: 'Groups' };
  await open(queue({ whenAllAway: { kind: 'queue', id: 'r' } }), {
    'GET /api/queues': [queue(), other],
    'PUT /api/queues/q': queue({ version: 6 }),
  });
  expect(page.text()).not.toContain('By the key');
  await page.fill('A key to leave', '9');
  expect(page.text()).toContain('By the key');
  // Who is cut off is said so in words.
  expect(page.text()).toContain('By the key: these callers hear that nobody can take the call');
  await page.fill('The time waited counts on there', true);
  await page.press('Save');
  expect(saved().body).toMatchObject({ leaveKey: '9', keepsTime: ['allAway'] });
});

test('a member joins later, a level gives way: the wait is drawn, and told to who does not see it', async () => {
  await open(queue({ skills: [{ skillId: 's', minimum: 3, relaxes: [] }], maxWaitSeconds: 300 }), {
    'GET /api/skills': [{ id: 's', name: 'French', version: 1, retired: false }],
    'PUT /api/queues/q': queue({ version: 6 }),
  });
  await page.press('Let some join later in the wait');
  await page.fill('Seconds of waiting after which Crew may be rung', '90');
  await page.press('Less is enough later');
  await page.press('And later still less');
  expect(page.text()).toContain('Crew: turn 1, from 1:30 on');
  expect(page.text()).toMatch(/From 0:40 on .*2 is asked for/);
  expect(page.text()).toContain('From 0:00 on 13 fit, 5 signed in');
  await page.press('Save');
  expect(saved().body).toMatchObject({
    joins: [{ memberId: crew, afterSeconds: 90 }],
    skills: [
      {
        relaxes: [
          { afterSeconds: 40, minimum: 2 },
          { afterSeconds: 80, minimum: 1 },
        ],
      },
    ],
  });
});

test('what callers hear, whose turn it is, and who may be rung when are set in sentences', async () => {
  await open(queue(), { 'PUT /api/queues/q': queue({ version: 6 }) });
  await page.fill('Seconds between announcements, 15 to 600; empty for none', '45');
  await page.fill('Their place in line', true);
  await page.fill('Points a minute of waiting adds, 0 to 9', '2');
  await page.fill('It counts beside callers of other queues too', true);
  await page.press('Give callers a priority by their record');
  await page.fill('Value of that field', 'Gold');
  await page.fill('Whoever wraps up is rung, too', true);
  await page.press('Save');
  expect(saved().body).toMatchObject({
    ...{ announceSeconds: 45, tellsPlace: true, agePoints: 2, agesAcross: true, ringsInWrapUp: true },
    recordPriorities: [{ field: 'tier', value: 'Gold', priority: 5 }],
  });
});

test('callers may be called back: by which key, when it is offered, who rings first', async () => {
  await open(queue(), { 'PUT /api/queues/q': queue({ version: 6 }) });
  expect(page.text()).not.toContain('who is not reached');
  await page.fill('Callers may keep their place and be called back', true);
  await page.fill('By key', '7');
  await page.fill('Rings first', 'the caller, then an agent');
  await page.fill('Seconds of waiting, or of expected waiting, after which it is offered', '');
  await page.fill('Times they are called in all', '2');
  await page.press('Save');
  const rules = { key: '7', first: 'caller', offerAfterSeconds: null, tries: 2, retryMinutes: 10 };
  expect(saved().body).toMatchObject({ callBack: rules });
  const { show } = queueArea(() => '');
  expect(show('callBack', { ...rules, fromHour: 8, toHour: 21 })).toBe(
    'by 7, never offered, caller first, 2 tries, every 10 minutes, 8 to 21',
  );
  expect(show('callBack', null)).toBe('none');
});

test('history tells all of it in words', () => {
  const { show } = queueArea((id) => (id === 's' ? 'French' : id));
  const told: [string, unknown, string][] = [
    ['joins', [{ memberId: 'Crew', afterSeconds: 90 }], 'Crew from 90 s'],
    [
      'skills',
      [{ skillId: 's', minimum: 4, relaxes: [{ afterSeconds: 40, minimum: 2 }] }],
      'French 4, then 2 from 40 s',
    ],
    ['keepsTime', ['queueFull', 'allAway'], 'when full, all away'],
    ['recordPriorities', [{ field: 'tier', value: 'gold', priority: 3 }], 'tier gold: 3'],
    ['ringsAway', [], 'nobody who is away'],
    ['mostTexts', 2, 'not from 2 on'],
    ['phoneShows', ['source', 'queue'], 'the call source, the queue'],
    ['announceSeconds', null, 'never'],
    ['goalPercent', 80, '80 %'],
  ];
  for (const [field, value, words] of told) expect(show(field, value)).toBe(words);
});
