// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type Asked, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import type { SurveyView } from './words.ts';
import SurveysPage from './SurveysPage.vue';

let page: OpenPage;
afterEach(() => page.close());

const row = (more: Partial<SurveyView> = {}): SurveyView => ({
  ...{ by: 'person', itemId: 'p', name: 'Ines Calloway', question: 'Friendly' },
  ...{ answers: 1_240, counts: [10, 20, 100, 310, 800], mean: 451 },
  ...more,
});
const open = async (answer: Answers[string], at = '/surveys') => {
  page = await openPage(SurveysPage, { 'GET /api/surveys': answer }, { at });
};

test('a row for each agent and question: how many answered, how each, and the mean', async () => {
  await open([row(), row({ question: 'Solved', answers: 1, counts: [0, 0, 1, 0, 0], mean: 300 })]);
  expect(page.text()).toContain('1,241 answers in the last 30 days');
  expect(page.text()).toContain('Ines Calloway');
  expect(page.text()).toContain('4.5');
  expect(page.shown.find('.spread').attributes('aria-label')).toBe('1: 10, 2: 20, 3: 100, 4: 310, 5: 800');
});

test('put together by another thing it is asked again, and the address keeps it', async () => {
  const asked: (string | null)[] = [];
  await open((each: Asked) => {
    asked.push(each.query.get('by'));
    return [row({ by: 'queue', name: 'Bookings' })];
  });
  await page.shown.findAll('.looks input')[1]!.trigger('change');
  await page.settled();
  expect(asked).toEqual(['person', 'queue']);
  expect(page.text()).toContain('Bookings');
});

test('where nobody was asked it is said how one asks; what cannot be read is said too', async () => {
  await open([]);
  expect(page.text()).toContain('Put “After the talk” before the queue');
  page.close();
  await open(new Refusal(500, { code: 'broken', detail: 'Broken.' }));
  await page.settled();
  expect(page.text()).toContain('The answers could not be read.');
});
