// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Answers, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import NewPersonSheet from './NewPersonSheet.vue';
import { around, somebody } from './person.testing.ts';

let page: OpenPage;
afterEach(() => page.close());

const proposed: Answers = {
  ...around,
  'GET /api/people/proposal': ({ query }: { query: URLSearchParams }) => ({
    login: (query.get('name') ?? '').toLowerCase().replace(' ', '.'),
    extension: query.get('teamId') === 'u' ? '2201' : '2105',
  }),
};
const made = { id: 'n', name: 'Ann Berg', phone: { enrolmentCode: 'swift-otter-12' } };
const open = (answers: Answers = {}, props = {}) =>
  openPage(NewPersonSheet, { ...proposed, ...answers }, { props });
const value = (name: string) =>
  (document.getElementById(`person-${name}`) as HTMLInputElement | HTMLSelectElement).value;
const body = () => page.sent.find(({ path }) => path === '/api/people')!.body as Record<string, unknown>;

test('login and extension follow name and team, until one types another', async () => {
  page = await open();
  await page.fill('Name', 'Ann Berg');
  expect([value('login'), value('extension')]).toEqual(['ann.berg', '2105']);
  await page.fill('Team', 'Refunds');
  expect(value('extension')).toBe('2201');
  await page.fill('Login', 'annie');
  await page.fill('Name', 'Ann Bergen');
  expect(value('login')).toBe('annie');
});

test('what is only proposed is not sent: the server proposes again for whoever comes first', async () => {
  page = await open({ 'POST /api/people': made, 'POST /api/stand-ins/enrolments': null });
  await page.fill('Name', 'Ann Berg');
  await page.press('Make Ann Berg');
  expect(body()).toEqual({
    ...{ name: 'Ann Berg', teamId: null, role: 'agent', phoneModel: 'softphone', home: false },
  });
  expect(page.sent.map(({ path }) => path)).toEqual(['/api/people', '/api/stand-ins/enrolments']);
});

test('an auditor has no phone, and nothing is handed to a stand-in', async () => {
  page = await open({ 'POST /api/people': { ...made, phone: null } });
  await page.fill('Name', 'Ann Berg');
  await page.fill('Role', 'Auditor');
  await page.press('Make Ann Berg');
  expect(body()).toMatchObject({ role: 'auditor', phoneModel: null });
  expect(page.sent).toHaveLength(1);
});

test('a fault stands at its field; what was typed stays', async () => {
  page = await open({
    'POST /api/people': new Refusal(422, 'invalidInput', 'A field is wrong.', [
      { path: '/extension', detail: 'Extension 2104 is taken by Ines Calloway.' },
    ]),
  });
  await page.fill('Name', 'Ann Berg');
  await page.fill('Extension', '2104');
  await page.press('Make Ann Berg');
  const field = document.getElementById('person-extension')!;
  expect([field.getAttribute('aria-invalid'), value('extension')]).toEqual(['true', '2104']);
  const said = document.getElementById(field.getAttribute('aria-describedby')!)!;
  expect(said.textContent).toContain('taken by Ines Calloway');
});

test('one like another takes their team, role and phone, and says so', async () => {
  const like = somebody({ role: 'supervisor', phones: [{ model: 'softphone', home: true }] as never });
  page = await open({ 'POST /api/people': made }, { like });
  expect(page.text()).toContain('With the settings, skills and queues of Ines Calloway');
  await page.fill('Name', 'Ann Berg');
  await page.fill('Hand the enrolment code to a stand-in phone', false);
  await page.press('Make Ann Berg');
  expect(body()).toMatchObject({ likeId: 'p', teamId: 't', role: 'supervisor', home: true });
});
