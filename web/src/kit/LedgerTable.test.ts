// @vitest-environment happy-dom
import { mount } from '@vue/test-utils';
import fc from 'fast-check';
import { nextTick } from 'vue';
import { expect, test } from 'vitest';
import { compared } from './compared.ts';
import LedgerTable from './LedgerTable.vue';

// Nothing is laid out here: what is looked through is said to be as high as a window.
Object.defineProperty(HTMLElement.prototype, 'clientHeight', { value: 600 });

const rows = ['Cy 10', 'Ann', 'cy 2', 'Bo'].map((name, index) => ({ id: `r${index}`, name, count: index }));
const columns = [
  { key: 'name', title: 'Name', sort: (row: { name: string }) => row.name },
  { key: 'count', title: 'Count', sort: true as const },
  { key: 'secret', title: 'Secret', hidden: true },
];
const table = (more: object = {}) =>
  mount(LedgerTable as never, {
    attachTo: document.body,
    props: { columns, rows, caption: 'Things', ...more } as never,
  });
const names = (page: ReturnType<typeof table>) =>
  page.findAll('tbody tr td:nth-child(2)').map((cell) => cell.text());

test('rows are sorted as people expect, upwards, downwards, then as they came; numbers in names by their size', async () => {
  const page = table();
  expect(names(page)).toEqual(['Cy 10', 'Ann', 'cy 2', 'Bo']);
  await page.setProps({ sort: 'name' } as never);
  expect(names(page)).toEqual(['Ann', 'Bo', 'cy 2', 'Cy 10']);
  await page.setProps({ sort: '-name' } as never);
  expect(names(page)).toEqual(['Cy 10', 'cy 2', 'Bo', 'Ann']);
  expect(page.get('th:nth-child(2)').attributes('aria-sort')).toBe('descending');
  await page.get('th:nth-child(2) button').trigger('click');
  expect(page.emitted('update:sort')).toEqual([['']]);
});

test('what the server sorts stays as it came; a hidden column is not shown', async () => {
  const page = table({ sort: '-count' });
  expect(names(page)).toEqual(['Cy 10', 'Ann', 'cy 2', 'Bo']);
  expect(page.get('thead').text()).not.toContain('Secret');
  await page.findAll('thead button')[1]!.trigger('click');
  expect(page.emitted('update:sort')).toEqual([['']]);
});

test('arrows move without opening, Enter opens, Space marks, Shift marks all between', async () => {
  const page = table({ markable: true });
  const grid = page.get('[role="grid"]');
  await grid.trigger('keydown', { key: 'ArrowDown' });
  await nextTick();
  await grid.trigger('keydown', { key: 'ArrowDown' });
  await nextTick();
  expect(page.emitted('choose')).toBeUndefined();
  expect(grid.attributes('aria-activedescendant')).toMatch(/-r1$/);
  await grid.trigger('keydown', { key: 'Enter' });
  expect(page.emitted<[{ id: string }]>('choose')![0]![0].id).toBe('r1');
  await grid.trigger('keydown', { key: ' ' });
  await grid.trigger('keydown', { key: 'End' });
  await nextTick();
  await grid.trigger('keydown', { key: ' ', shiftKey: true });
  const marks = page.emitted<[ReadonlySet<string>]>('update:marked')!.map(([set]) => [...set]);
  expect(marks[0]).toEqual(['r1']);
  expect(grid.attributes('aria-multiselectable')).toBe('true');
});

test('the whole length is told, though only some rows are read', () => {
  expect(table({ total: 12_046 }).get('[role="grid"]').attributes('aria-rowcount')).toBe('12047');
});

test('of five thousand rows only some are drawn', () => {
  const many = Array.from({ length: 5_000 }, (_, index) => ({
    id: `m${index}`,
    name: `Row ${index}`,
    count: index,
  }));
  const page = table({ rows: many });
  expect(page.findAll('tbody tr').length).toBeLessThan(100);
  expect(page.text()).not.toContain('Row 4000');
});

test('comparing is an order: of two different things one comes first, and the way back is the other sign', () => {
  const value = fc.oneof(fc.string(), fc.integer());
  fc.assert(
    fc.property(fc.string(), fc.string(), (one, other) => {
      expect(Math.sign(compared(one, other))).toBe(0 - Math.sign(compared(other, one)));
    }),
  );
  fc.assert(
    fc.property(value, (one) => {
      expect(compared(one, one)).toBe(0);
    }),
  );
});
