// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type Asked, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import ManyPeople from './ManyPeople.vue';
import { around } from './person.testing.ts';

let page: OpenPage;
afterEach(() => page.close());

interface Row {
  name: string;
  extension: string;
  mail: string;
}
const row = (name: string, more: Partial<Row> = {}) => ({
  ...{ name, team: 'Bookings', role: '', login: '', extension: '', phone: '', mail: '' },
  ...more,
});
/** Checks as the server does: extension 2104 is taken, logins are proposed. */
const check = ({ body }: Asked) => ({
  newTeams: ['Night'],
  rows: (body as { rows: Row[] }).rows.map((each) => ({
    row: { ...each, login: each.name.toLowerCase().replace(' ', '.'), role: 'agent' },
    faults: each.extension === '2104' ? { extension: '2104 is taken by Ines Calloway.' } : {},
  })),
});
const open = async (rows: object[], answers: Answers = {}) => {
  page = await openPage(ManyPeople, {
    ...around,
    'POST /api/people/list/read': { headers: ['Who', 'Ext'], columns: ['name', 'extension'], rows },
    'POST /api/people/list/check': check as never,
    ...answers,
  } as Answers);
  await page.shown.find('textarea').setValue('Who,Ext\nAnn Berg,2104\nBo Lind,2105\n');
  await page.press(/^(Read|Look|Check)/);
  await page.settled();
};
const cell = (name: string) => document.querySelector(`[aria-label="${name}"]`) as HTMLInputElement;

test('rows are checked as they stand; faulty ones can be looked at alone', async () => {
  await open([row('Ann Berg', { extension: '2104' }), row('Bo Lind', { extension: '2105' })]);
  expect(page.text()).toContain('2 rows, 1 good 1 to mend');
  expect(page.text()).toContain('Made with them: Night.');
  expect(page.text()).toContain('2104 is taken by Ines Calloway.');
  await page.fill('only those', true);
  expect(page.shown.findAll('tbody tr')).toHaveLength(1);
});

test('a cell is mended in place; only what is proposed stands as a proposal', async () => {
  await open([row('Ann Berg', { extension: '2104' })]);
  expect([cell('login of row 1').value, cell('login of row 1').placeholder]).toEqual(['', 'ann.berg']);
  expect(cell('extension of row 1').getAttribute('aria-invalid')).toBe('true');
  await page.fill('extension of row 1', '2107');
  expect(page.text()).toContain('1 good');
  expect(cell('extension of row 1').getAttribute('aria-invalid')).toBe('false');
});

test('good rows are made, faulty ones stay to be mended; codes are shown meanwhile', async () => {
  const made = { id: 'b', name: 'Bo Lind', login: 'bo.lind', extension: '2105', signInCode: 'red-otter-7' };
  await open([row('Ann Berg', { extension: '2104' }), row('Bo Lind', { extension: '2105' })], {
    'POST /api/people/list': [{ ...made, phone: null, sentTo: null }],
  });
  await page.press('Make 1 people');
  const sent = page.sent.find(({ path }) => path === '/api/people/list')!.body as { rows: Row[] };
  expect(sent.rows.map(({ name }) => name)).toEqual(['Bo Lind']);
  expect(page.text()).toContain('red-otter-7');
  await page.press('Correct the other 1');
  expect(page.text()).toContain('1 rows, 0 good 1 to mend');
});

test('codes go by mail only to those who have an address, and only where one wants it', async () => {
  await open([row('Ann Berg', { mail: 'ann@merrow.example' }), row('Bo Lind')], {
    'POST /api/people/list': [],
  });
  await page.fill('send 1 of them the codes', false);
  await page.press('Make 2 people');
  expect(page.sent.find(({ path }) => path === '/api/people/list')!.body).toMatchObject({ sendCodes: false });
});

test('what was taken meanwhile is said, and its cells are marked by checking again', async () => {
  let taken = false;
  await open([row('Bo Lind', { extension: '2105' })], {
    'POST /api/people/list': () => {
      taken = true;
      return new Refusal(422, 'invalidInput', 'A cell is wrong by now. Nobody was made.', [
        { path: '/rows/0/extension', detail: '2105 is taken.' },
      ]);
    },
    'POST /api/people/list/check': ((asked: Asked) => {
      const answer = check(asked);
      return taken
        ? {
            ...answer,
            rows: answer.rows.map((each) => ({ ...each, faults: { extension: '2105 is taken.' } })),
          }
        : answer;
    }) as never,
  });
  await page.press('Make 1 people');
  expect(page.text()).toContain('A cell is wrong by now. Nobody was made.');
  expect(cell('extension of row 1').getAttribute('aria-invalid')).toBe('true');
});

test('a file that is too large is refused before it is read', async () => {
  page = await openPage(ManyPeople, around);
  const input = page.shown.find('input[type=file]');
  const file = new File(['x'], 'crew.csv', { type: 'text/csv' });
  Object.defineProperty(file, 'size', { value: 9 * 1024 * 1024 });
  Object.defineProperty(input.element, 'files', { value: [file] });
  await input.trigger('change');
  await page.settled();
  expect(page.text()).toContain('crew.csv has 9 MB; 8 MB are taken at once. Split it.');
});
