// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from 'vitest';
import { show } from '../testing.ts';
import NumberField from './NumberField.vue';

afterEach(() => (document.body.innerHTML = ''));

async function typed(modelValue: string) {
  const page = show(NumberField, { modelValue, id: 'n', placeholder: '', readonly: false });
  page.getComponent({ name: 'VTextField' }).vm.$emit('change');
  return page;
}

test.each([
  ['+1 112 555 0142', 'area code and exchange begin with 2 to 9'],
  ['360 555', 'not a complete phone number'],
  ['+1 999 555 0117', 'No numbering plan knows such a number'],
])('%s: %s', async (number, sentence) => {
  const page = await typed(number);
  await expect.poll(() => page.get('[role="status"]').text()).toContain(sentence);
});

test('nothing is said of a number somebody may have, and what was said goes when another is typed', async () => {
  const page = await typed('+1 999 555 0117');
  await expect.poll(() => page.find('[role="status"]').exists()).toBe(true);
  await page.setProps({ modelValue: 'tel:+1-360-555-0117' } as never);
  page.getComponent({ name: 'VTextField' }).vm.$emit('change');
  await vi.dynamicImportSettled();
  expect(page.find('[role="status"]').exists()).toBe(false);
});

test('nothing moves under a pointer that is down: it is said when the press is over', async () => {
  document.body.dispatchEvent(new Event('pointerdown', { bubbles: true }));
  const page = await typed('360 555');
  await vi.dynamicImportSettled();
  expect(page.find('[role="status"]').exists()).toBe(false);
  document.body.dispatchEvent(new Event('pointerup', { bubbles: true }));
  await expect.poll(() => page.get('[role="status"]').text()).toContain('not a complete');
});
