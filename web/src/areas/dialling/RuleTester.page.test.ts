// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type OpenPage, openPage } from '../../page.testing.ts';
import RuleTester from './RuleTester.vue';

let page: OpenPage;
afterEach(() => page.close());

const trial = (more: object = {}) => ({
  kind: 'rule',
  digits: '12065550170',
  trunks: [],
  others: [],
  ...more,
});
const open = async (answer: object | (() => object), props: object = {}) => {
  page = await openPage(
    RuleTester,
    {
      'GET /api/teams': [{ id: 't', name: 'Bookings', version: 1, retired: false, people: 3 }],
      'GET /api/dialling-rules': [],
      'POST /api/dialling-rules/try': answer,
    },
    { props },
  );
  await page.settled();
};

test('what is sent, over which trunks in turn, at what price', async () => {
  await open(
    trial({
      trunks: [
        { id: 'k', name: 'Sound Telecom', perMinute: '0.0125' },
        { id: 'l', name: 'Second line', perMinute: null },
      ],
    }),
  );
  expect(page.text()).toContain('12065550170 over Sound Telecom, else Second line');
  expect(page.text()).toContain('a minute');
});

test.each([
  ['emergency', 'A call for help. It goes out as dialled'],
  ['noRules', 'There are no rules: it goes out as it stands.'],
  ['noMatch', 'No rule fits. The call does not go out.'],
  ['notDialable', 'This is nothing one can dial.'],
])('%s is said in words', async (kind, words) => {
  await open(trial({ kind, digits: '' }));
  expect(page.text()).toContain(words);
});

test('why other rules do not win is said; those that do not fit are only counted', async () => {
  const other = (ruleId: string, why: string) => ({ ruleId, name: `Rule ${ruleId}`, pattern: '9X', why });
  await open(
    trial({
      others: [other('a', 'wins'), other('b', 'lessSpecific'), other('c', 'noMatch'), other('d', 'noMatch')],
    }),
  );
  expect(page.text()).toContain('Fits, but less specific');
  expect(page.text()).toContain('2 others do not fit.');
  expect(page.text()).not.toContain('Rule c');
});

test('who dials goes with it: somebody of a team, or a campaign', async () => {
  await open(trial());
  await page.fill('Who dials', 'somebody of Bookings');
  expect(page.sent.at(-1)!.body).toEqual({ dialled: '206 555 0170', by: 'person', teamId: 't' });
  await page.fill('Who dials', 'a campaign');
  expect(page.sent.at(-1)!.body).toEqual({ dialled: '206 555 0170', by: 'campaign' });
});

test('a rule that is being written takes part before it is saved', async () => {
  await open(trial({ others: [{ ruleId: 'draft', name: 'This rule', pattern: '9X', why: 'wins' }] }), {
    draft: { name: '', pattern: '9X', strip: 1 },
  });
  expect(page.sent[0]!.body).toMatchObject({ draft: { name: 'This rule', pattern: '9X', strip: 1 } });
  expect(page.shown.find('li b').text()).toBe('This rule');
});

test('nothing typed asks nothing, and says nothing', async () => {
  await open(trial());
  const before = page.sent.length;
  await page.fill('What is dialled', ' ');
  expect(page.sent).toHaveLength(before);
  expect(page.text()).not.toContain('12065550170');
});
