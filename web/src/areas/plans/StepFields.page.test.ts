// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { CompiledStep, StepKindName } from '@night-bell/core/model/plan';
import { freshStep } from '@night-bell/core/plan/document';
import { stepKinds } from '@night-bell/core/plan/registry';
import { shelf } from './words.ts';
import { type Answers, type Asked, type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import type { PlanNames } from './plan-names.ts';
import StepFields from './StepFields.vue';

let page: OpenPage;
afterEach(() => page.close());

const names = {
  nameOf: (_kind: string, id: string) => id,
  words: (id: string) => (id === 'hello' ? 'Welcome aboard.' : null),
  choices: (kind: string) =>
    kind === 'prompt' ? [{ value: 'hello', title: 'Welcome' }] : kind === 'hours' ? [] : null,
  recordFields: () => ['tier', 'language'],
} as unknown as PlanNames;
const around: Answers = {
  'GET /api/prompts': [],
  'GET /api/opening-hours': [],
  'GET /api/record-fields': ['tier'],
  'GET /api/teams': [],
};
const open = async (
  kind: StepKindName,
  config: object = {},
  { answers = {} as Answers, readonly = false } = {},
) => {
  const told: Record<string, unknown>[] = [];
  const fresh = freshStep(kind);
  const step: CompiledStep = { ...fresh, config: { ...fresh.config, ...config } };
  page = await openPage(
    StepFields,
    { ...around, ...answers },
    {
      props: {
        ...{ step, names, readonly, planId: 'p' },
        onSet: (set: Record<string, unknown>) => told.push(set),
      },
    },
  );
  await page.settled();
  return told;
};

test('every kind of the shelf shows a field for each of its settings', async () => {
  for (const kind of shelf) {
    await open(kind);
    const labels = Object.values(stepKinds[kind].fields).map(({ label }) => label);
    // Rules bring labels of their own.
    if (kind !== 'rules') for (const label of labels) expect(page.text(), kind).toContain(label);
    page.close();
  }
  await open('end');
});

test('a figure out of bounds leaves the step as it was; an empty one is what emptiness means', async () => {
  const told = await open('queue', { queueId: 'q', priority: 2 });
  await page.fill('Priority', '12');
  expect(told).toEqual([]);
  await page.fill('Priority', '7');
  await page.fill('Priority', '');
  expect(told.map(({ priority }) => priority)).toEqual([7, null]);
});

test('the words of a chosen prompt are read beside it', async () => {
  await open('say', { promptId: 'hello' });
  expect(page.text()).toContain('“Welcome aboard.”');
});

test('a field of the record is typed, and those there are can be chosen', async () => {
  const told = await open('record');
  const field = page.shown.get('#step-languageField');
  expect(page.shown.findAll('datalist option').map((each) => each.attributes('value'))).toEqual([
    'tier',
    'language',
  ]);
  await field.setValue('  language ');
  expect(told).toEqual([{ languageField: 'language' }]);
});

test('a bot is added on the spot, with its address; what cannot be is said at its place', async () => {
  const told = await open(
    'bot',
    {},
    {
      answers: {
        'POST /api/bots': ({ body }: Asked) =>
          (body as { address: string }).address === ''
            ? new Refusal(422, 'invalidInput', 'Type the address of the bot.')
            : { id: 'b', version: 1, retired: false, uses: 0, hasKey: false, ...(body as object) },
      },
    },
  );
  await page.press('Add a bot');
  await page.fill('Name of the new bot', 'Sailing desk');
  await page.press('Make it');
  expect(page.text()).toContain('Type the address of the bot.');
  await page.fill('Address of the new bot', 'https://bot.example/talk');
  await page.press('Make it');
  await page.settled();
  expect(page.sent.at(-1)!.body).toMatchObject({ name: 'Sailing desk', address: 'https://bot.example/talk' });
  expect(told).toMatchObject([{ botId: 'b' }]);
});

test('who only reads changes and makes nothing', async () => {
  await open('bot', { botId: 'b' }, { readonly: true });
  expect(page.text()).not.toContain('Add a bot');
  expect(page.text()).toContain('Open and try it');
});
