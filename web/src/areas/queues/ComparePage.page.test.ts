// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import ComparePage from './ComparePage.vue';

let page: OpenPage;
afterEach(() => page.close());

const queue = {
  ...{ id: 'q', version: 3, retired: false, name: 'Bookings', distribution: 'longestIdle', skills: [] },
  ...{ goalSeconds: 20, voicemailBoxId: null, peopleCount: 2 },
};
const measured = {
  ...{ days: 28, hour: 9, calls: 43.6, talkSeconds: 190.2, patienceSeconds: 300, all: 6, here: 2 },
};
/** All at once is quicker in every hour, the others are as they are now. */
const played = (asked: { distribution: string; seeds: number[] }) => ({
  people: [
    { id: 'a', name: 'Ines Calloway' },
    { id: 'b', name: 'Omar Haddad' },
  ],
  runs: asked.seeds.map((seed) => ({
    ...{ answered: 40, lost: 3, p90: 60, inTime: 0.7, calls: [20, 20], idle: [0.2, 0.3] },
    median: 20 + seed - (asked.distribution === 'allAtOnce' ? 8 + seed / 10 : 0),
  })),
});
const open = async (answers: Answers = {}, role = 'administrator') => {
  page = await openPage(
    ComparePage,
    {
      'GET /api/queues': [queue],
      'GET /api/queues/q/measured': measured,
      'POST /api/queues/q/hours': ({ body }) => played(body as never),
      ...answers,
    },
    { props: { id: 'q' }, role },
  );
  await page.settled();
};
/** Seven ways come one after the other. */
const compared = async () => {
  await page.press(/^Compare/);
  for (let turn = 0; turn < 10; turn++) await page.settled();
};
const asked = () =>
  page.sent
    .filter(({ method }) => method === 'POST')
    .map(({ body }) => body as { distribution: string; calls: number; seeds: number[] });

test('the figures of the last weeks stand there; one press plays all seven ways on the same seeds', async () => {
  await open();
  expect(page.text()).toContain("As measured over 28 days, from 9 to 10 o'clock");
  await compared();
  expect(asked()).toHaveLength(7);
  expect(asked()[0]).toMatchObject({
    distribution: 'longestIdle',
    calls: 44,
    talkSeconds: 190,
    people: 'here',
  });
  expect(new Set(asked().map(({ seeds }) => seeds.join()))).toEqual(new Set(['1,2,3,4,5']));
  expect(page.text()).toContain('All at once is answered 8.3 s sooner at the median: more than chance.');
  expect(page.text()).toContain('No other difference in waiting or lost calls is more than chance.');
});

test('figures typed are those that are played; of others than stand there it says so', async () => {
  await open();
  await page.fill('Calls in the hour', '120');
  await compared();
  expect(asked()[0]).toMatchObject({ calls: 120 });
  await page.fill('Calls in the hour', '150');
  expect(page.text()).toContain('This is of other figures than stand above.');
});

test('a way is taken into use where it stands; an auditor only looks', async () => {
  await open({ 'PUT /api/queues/q': { ...queue, version: 4, distribution: 'allAtOnce' } });
  await compared();
  const row = [...document.querySelectorAll('tbody tr')].find((each) =>
    each.textContent.includes('all at once'),
  )!;
  row.querySelector('button')!.click();
  await page.settled();
  expect(page.sent.at(-1)).toMatchObject({ method: 'PUT', body: { distribution: 'allAtOnce' } });
  expect(page.said()).toContain('Bookings rings all at once from now on');
  page.close();
  await open({}, 'auditor');
  await compared();
  expect(page.text()).not.toContain('Use it');
});

test('what cannot be played is said, and what came before stays', async () => {
  await open({
    'POST /api/queues/q/hours': ({ body }) =>
      (body as { distribution: string }).distribution === 'inOrder'
        ? new Refusal(409, 'notNow', 'None of its members is signed in. Compare with all members.')
        : played(body as never),
  });
  await compared();
  expect(page.text()).toContain('None of its members is signed in.');
  expect(page.text()).toContain('not played');
});

test('where nobody called, figures are to be typed', async () => {
  await open({
    'GET /api/queues/q/measured': {
      ...measured,
      hour: null,
      calls: null,
      talkSeconds: null,
      patienceSeconds: null,
    },
  });
  expect(page.text()).toContain('Nobody called in the last 28 days: type calls and handling.');
});
