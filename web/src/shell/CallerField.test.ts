// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import * as items from '../api/items.ts';
import { show } from '../testing.ts';
import CallerField from './CallerField.vue';

const send = vi.spyOn(items, 'send');
let records: { name: string; numbers: string[] }[];
beforeEach(() => {
  records = [{ name: 'Bjornstad Boatyard', numbers: ['+13605550117', '+13605550118'] }];
  send.mockReset();
  send.mockImplementation(() => Promise.resolve({ records } as never));
});
afterEach(() => (document.body.innerHTML = ''));
const field = () => show(CallerField, { modelValue: '+1 206 555 0199' });
const told = (page: ReturnType<typeof show>) => page.emitted('update:modelValue');

test('a number is taken as it is typed, and nothing is looked up', async () => {
  const page = field();
  await page.get('input').setValue('+1 206 555 0140');
  await flushPromises();
  expect(told(page)).toEqual([['+1 206 555 0140']]);
  expect(page.emitted('chosen')).toHaveLength(1);
  expect(send).not.toHaveBeenCalled();
});

test('a name finds customers, each by the numbers there are of them; typed out, it is the first', async () => {
  const page = field();
  const input = page.get('input');
  input.element.value = 'bjorn';
  await input.trigger('input');
  await flushPromises();
  expect(send).toHaveBeenCalledWith('GET', '/api/records?text=bjorn&limit=8');
  expect(page.findAll('option').map((each) => each.attributes('value'))).toEqual([
    ...['+1 360 555 0117', '+1 360 555 0118'],
  ]);
  await input.trigger('change');
  await flushPromises();
  expect(told(page)).toEqual([['+1 360 555 0117']]);
});

test('a name that nobody has stays to be mended, and calls nobody', async () => {
  records = [];
  const page = field();
  await page.get('input').setValue('nobody of this name');
  await flushPromises();
  expect(told(page)).toBeUndefined();
  expect(page.get('input').element.value).toBe('nobody of this name');
});

test('a caller chosen elsewhere is shown', async () => {
  const page = field();
  await page.setProps({ modelValue: '+1 902 555 0103' } as never);
  expect(page.get('input').element.value).toBe('+1 902 555 0103');
});
