// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type Asked, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import BringNumbers from './BringNumbers.vue';

let page: OpenPage;
afterEach(() => page.close());
const row = (number: string, faults: Record<string, string> = {}) => ({
  ...{ number, label: 'Main line', destination: '', faults },
});
const open = async (answers: Answers) => {
  page = await openPage(BringNumbers, answers);
};

test('rows are checked as they stand; nothing is brought before all are right', async () => {
  let rows = [row('+12065550140'), row('+12065550141', { destination: 'Nobody is called Bokings.' })];
  await open({
    'POST /api/numbers/list': ({ body }: Asked) => ({
      rows,
      made: (body as { dryRun: boolean }).dryRun ? 0 : rows.length,
    }),
  } as Answers);
  await page.fill('Rows of numbers', 'number, leads to\n+12065550140,\n+12065550141, Bokings');
  await page.press('Check');
  expect(page.text()).toContain('1 of 2 rows are wrong.');
  expect(page.text()).toContain('Nobody is called Bokings.');
  expect(page.text()).not.toContain('Bring all');
  rows = [row('+12065550140'), row('+12065550141')];
  await page.press('Check');
  await page.press('Bring all 2');
  expect(page.sent.map(({ body }) => (body as { dryRun: boolean }).dryRun)).toEqual([true, true, false]);
  expect(page.said()).toBe('2 numbers are brought.');
});

test('a table that cannot be read says where, and stays', async () => {
  await open({
    'POST /api/numbers/list': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/text', detail: 'Line 3 cannot be read: a quotation mark is not closed.' },
    ]),
  });
  await page.fill('Rows of numbers', 'number\n"+1206');
  await page.press('Check');
  expect(page.text()).toContain('Line 3 cannot be read');
  expect((page.shown.find('textarea').element as HTMLTextAreaElement).value).toContain('"+1206');
});
