// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import { type OpenPage, openPage } from '../../page.testing.ts';
import type { FreshCode } from './fresh-codes.ts';
import MadePeople from './MadePeople.vue';

const saveTable = vi.hoisted(() => vi.fn());
vi.mock('../../kit/table-file.ts', () => ({ saveTable }));
let page: OpenPage;
afterEach(() => page.close());

const code = (name: string, more: Partial<FreshCode> = {}): FreshCode => ({
  ...{ id: name, name, login: `${name.toLowerCase()}+x`, extension: '2104', signInCode: 'red-otter-7' },
  ...{ phone: null, sentTo: null },
  ...more,
});
const open = async (people: FreshCode[], waiting = 0) => {
  page = await openPage(MadePeople, {}, { props: { people, waiting } });
};

test('codes are saved with links in which the login is filled in', async () => {
  await open([code('Ann', { phone: { enrolmentCode: 'blue/otter' } as never }), code('Bo')]);
  await page.press('Save as CSV');
  const [, heads, rows] = saveTable.mock.calls[0] as [string, string[], string[][]];
  expect(heads.slice(-2)).toEqual(['Sign in at', 'Set up the phone at']);
  expect(rows[0]!.slice(-2)).toEqual([
    `${location.origin}/?login=ann%2Bx`,
    `${location.origin}/enrol#blue%2Fotter`,
  ]);
  expect(rows[1]!.at(-1)).toBe('');
});

test('how many went by mail is said, and whose rows still wait to be corrected', async () => {
  await open([code('Ann', { sentTo: 'ann@merrow.example' }), code('Bo')], 3);
  expect(page.text()).toContain('2 people have codes, 1 by mail');
  const last = () => page.shown.findAll('.actions button').at(-1)!.text();
  expect(last()).toBe('Correct the other 3');
  page.close();
  await open([code('Ann')]);
  expect(last()).toBe('I have them, hide them');
});
