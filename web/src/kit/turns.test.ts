// @vitest-environment happy-dom
import { flushPromises, mount } from '@vue/test-utils';
import { defineComponent, h } from 'vue';
import { afterEach, expect, test, vi } from 'vitest';
import Narrowing from './Narrowing.vue';
import { turn, useTurn } from './turns.ts';

const seen = (hidden: boolean) =>
  Object.defineProperty(document, 'hidden', { value: hidden, configurable: true });
afterEach(() => {
  seen(true);
  vi.useRealTimers();
});

/** The next task comes when this test says so. */
function tasks() {
  vi.useFakeTimers({ toFake: ['setTimeout'] });
  return async () => {
    await flushPromises();
    vi.runOnlyPendingTimers();
    await flushPromises();
  };
}
const part = (name: string) =>
  defineComponent({
    setup() {
      const come = useTurn();
      return () => (come.value ? name : '');
    },
  });

test('parts come one after another, each in a task of its own', async () => {
  seen(false);
  const next = tasks();
  const page = mount({ render: () => h('div', [h(part('head ')), h(part('fields'))]) });
  await next();
  expect(page.text()).toBe('head');
  await next();
  expect(page.text()).toBe('head fields');
});

test('a sentence over a list comes some of its words at a time', async () => {
  seen(false);
  const next = tasks();
  const words = Array.from({ length: 20 }, (_, i) => h('b', i));
  const page = mount(Narrowing, { slots: { default: () => words } });
  const counts: number[] = [];
  for (let i = 0; i < 4; i++) {
    await next();
    counts.push(page.findAll('b').length);
  }
  expect(counts).toEqual([8, 16, 20, 20]);
});

test('where nobody looks nothing waits for its turn', async () => {
  seen(true);
  tasks();
  expect(mount(part('head')).text()).toBe('head');
  await turn();
});
