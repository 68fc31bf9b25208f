// @vitest-environment happy-dom
import { flushPromises, mount } from '@vue/test-utils';
import { defineComponent, h } from 'vue';
import { afterEach, expect, test, vi } from 'vitest';
import { turn, useTurn } from './turns.ts';

const seen = (hidden: boolean) =>
  Object.defineProperty(document, 'hidden', { value: hidden, configurable: true });
afterEach(() => {
  seen(true);
  vi.unstubAllGlobals();
});

/** Frames are drawn when this test says so. */
function frames() {
  const waiting: FrameRequestCallback[] = [];
  vi.stubGlobal('requestAnimationFrame', (work: FrameRequestCallback) => waiting.push(work));
  return async () => {
    await flushPromises();
    for (const work of waiting.splice(0)) work(0);
    await new Promise((over) => setTimeout(over));
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

test('parts come one after another, each a frame after the one before', async () => {
  seen(false);
  const draw = frames();
  const page = mount({ render: () => h('div', [h(part('head ')), h(part('fields'))]) });
  await draw();
  expect(page.text()).toBe('head');
  await draw();
  expect(page.text()).toBe('head fields');
});

test('where nobody looks no frame is drawn, and nothing waits for one', async () => {
  seen(true);
  frames();
  expect(mount(part('head')).text()).toBe('head');
  await turn();
});
