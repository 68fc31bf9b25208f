// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { flushPromises } from '@vue/test-utils';
import * as items from '../../api/items.ts';
import { show } from '../../testing.ts';
import PlanRights from './PlanRights.vue';

vi.mock('../../shell/set-up.ts', () => ({
  useSetUp: () => ({ teams: [{ id: 'freight', name: 'Freight' }] }),
}));
const plan = (rights: { teamId: string | null; publishes: boolean }) => ({ id: 'plan', rights });
const send = vi.spyOn(items, 'send');
beforeEach(() => {
  send.mockReset();
});
afterEach(() => (document.body.innerHTML = ''));

const shown = (rights: { teamId: string | null; publishes: boolean }) =>
  show(PlanRights, { plan: plan(rights) });

test('who may work at a plan is said where it is set', () => {
  const words = (teamId: string | null, publishes: boolean) =>
    shown({ teamId, publishes }).get('button').text();
  expect(words(null, false)).toBe('Administrators work at it');
  expect(words('freight', false)).toBe('Supervisors of Freight edit it too');
  expect(words('freight', true)).toBe('Supervisors of Freight publish it too');
});

test('a team is let in with what else is set, and the answer is handed on', async () => {
  const page = shown({ teamId: null, publishes: false });
  const answer = plan({ teamId: 'freight', publishes: false });
  send.mockResolvedValue(answer as never);
  page.findComponent({ name: 'VSelect' }).vm.$emit('update:modelValue', 'freight');
  await flushPromises();
  expect(send).toHaveBeenCalledWith('POST', '/api/plans/plan/rights', {
    body: { teamId: 'freight', publishes: false },
  });
  expect(page.emitted('set')).toEqual([[answer]]);
});
