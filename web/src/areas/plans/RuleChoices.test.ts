// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { nextTick, ref } from 'vue';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Rule } from '@night-bell/core/plan/rules';
import { show } from '../../testing.ts';
import type { PlanNames } from './plan-names.ts';
import RuleChoices from './RuleChoices.vue';

const send = vi.hoisted(() => vi.fn());
vi.mock('../../api/items.ts', async (original) => ({ ...(await original<object>()), send }));

const names = {
  nameOf: (_kind: string, id: string) => id,
  choices: () => [{ value: 'q', title: 'Bookings' }],
} as unknown as PlanNames;
const wide: Rule = { id: 'r1', name: 'Ours', all: [{ about: 'callerNumber', begins: '+1' }] };
const narrow: Rule = { id: 'r2', name: '', all: [{ about: 'callerNumber', begins: '+1360' }] };

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  send.mockImplementation((_method: string, path: string, { body }: { body?: { rules: Rule[] } } = {}) =>
    Promise.resolve(
      path === '/api/record-fields'
        ? ['record.name', 'record.tier']
        : {
            ...{ days: 30, calls: 4_120, none: 12, unknown: 3 },
            caught: body!.rules.map(({ id, all }) => ({
              id,
              calls: all.some(({ about }) => about === 'key') ? null : 312,
            })),
          },
    ),
  );
});
afterEach(() => {
  vi.useRealTimers();
  document.body.innerHTML = '';
});

async function rules(begin: readonly Rule[], readonly = false) {
  const now = ref(begin);
  const shown = show(RuleChoices, {
    ...{ modelValue: begin, names, readonly, planId: 'p' },
    'onUpdate:modelValue': (next: readonly Rule[]) => {
      now.value = next;
      void shown.setProps({ modelValue: next });
    },
  });
  const counted = async () => {
    await vi.advanceTimersByTimeAsync(500);
    await flushPromises();
  };
  await counted();
  return { shown, now, counted };
}

test('each says how many callers of the last month it would have taken, or that it cannot be known', async () => {
  const pressed: Rule = { id: 'r2', name: '', all: [{ about: 'key', key: '1' }] };
  const { shown } = await rules([wide, pressed]);
  expect(shown.text()).toContain('312 of 4,120 callers in the last 30 days');
  expect(shown.text()).toContain('What it asks is not known of calls that are over.');
  expect(shown.text()).toContain('12 met none of them, of 3 it cannot be said.');
});

test('one that nobody gets to is told by the name of the one before', async () => {
  const { shown } = await rules([wide, narrow]);
  expect(shown.find('.fault-text').text()).toBe('Nobody gets here: Ours takes them all before.');
});

test('a rule is added, given another condition, and taken out; what is counted follows', async () => {
  const { shown, now, counted } = await rules([wide]);
  await shown
    .findAll('button')
    .find((button) => button.text() === 'Add a rule')!
    .trigger('click');
  expect(now.value).toEqual([wide, { id: 'r2', name: '', all: [{ about: 'caller', is: 'known' }] }]);
  const added = () => shown.findAll('li')[1]!;
  await added().find('.more').setValue('queue');
  expect(now.value[1]!.all[1]).toEqual({
    about: 'queue',
    id: '',
    figure: 'waiting',
    is: 'atLeast',
    value: 5,
  });
  const value = added().find('[aria-label=Value]');
  await value.setValue('-1');
  expect(now.value[1]!.all[1]).toMatchObject({ value: 5 });
  await value.setValue('8');
  expect(now.value[1]!.all[1]).toMatchObject({ value: 8 });
  await counted();
  expect(send.mock.lastCall![2].body.rules).toHaveLength(2);
  await added().find('[aria-label="Take rule 2 out"]').trigger('click');
  await nextTick();
  expect(now.value).toEqual([wide]);
});

test('another subject begins afresh', async () => {
  const { shown, now } = await rules([wide]);
  await shown.find('[aria-label=About]').setValue('record');
  expect(now.value[0]!.all).toEqual([{ about: 'record', field: '', is: 'same', value: '' }]);
  expect(shown.findAll('datalist option').map((each) => each.attributes('value'))).toEqual(['tier']);
  await shown.find('[aria-label="Compared how"]').setValue('empty');
  expect(shown.find('[aria-label="Compared with"]').exists()).toBe(false);
});

test('who may only read changes nothing', async () => {
  const { shown } = await rules([wide], true);
  expect(shown.findAll('button')).toHaveLength(0);
  expect(shown.find('[aria-label=About]').attributes('disabled')).toBeDefined();
});
