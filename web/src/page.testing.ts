import { VueQueryPlugin } from '@tanstack/vue-query';
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { type Component, defineComponent, h } from 'vue';
import { createMemoryHistory, createRouter, RouterView } from 'vue-router';
import { expect, vi } from 'vitest';
import type { SessionView } from './api/client.ts';
import { nativeFields } from './fields.testing.ts';
import { useNotices } from './shell/notices.ts';
import { useSession } from './shell/session.ts';

/** What the page asked of the server. */
export interface Asked {
  method: string;
  path: string;
  query: URLSearchParams;
  body: unknown;
  /** Of the thing as it was seen. */
  version: string | null;
}

type Answer = unknown;
export type Answers = Readonly<Record<string, Answer | ((asked: Asked) => Answer)>>;

/** An answer that says what is wrong, as the server writes it. */
export class Refusal {
  readonly status: number;
  readonly body: object;
  constructor(status: number, code: string, detail: string, errors: { path: string; detail: string }[] = []) {
    this.status = status;
    this.body = { status, code, title: detail, detail, errors };
  }
}

/** Every page asks for these, whatever it is about. */
const usual: Answers = {
  'GET /api/list-views': { columns: null, views: [] },
  'GET /api/directory': [],
  'GET /api/voicemail': [],
};

const session = (role: string): SessionView =>
  ({
    person: { id: 'me', name: 'Rowan Tseng', role },
    token: 'token',
    installation: { company: 'Merrow', timeZone: 'America/Los_Angeles', locale: 'en-GB' },
    reading: { locale: null, timeZone: null },
  }) as unknown as SessionView;

/** A page on a server of answers. What it asks that has no answer here fails the test that opened it. */
export interface OpenPage {
  shown: VueWrapper;
  /** All it sent that is no reading, in order. */
  sent: Asked[];
  /** Everything it asked, readings too. */
  asked: Asked[];
  address: () => string;
  /** The part with these words that is pressed: a button, a link, a tab. */
  press: (words: string | RegExp) => Promise<void>;
  /** Types into, chooses from or ticks the field of this name. */
  fill: (name: string, value: string | boolean) => Promise<void>;
  text: () => string;
  key: (key: string) => Promise<void>;
  /** The line that says what was just done, or what is wrong. */
  said: () => string;
  settled: () => Promise<void>;
  close: () => void;
}

// Nothing is laid out here: what is looked through is said to be as high as a window.
for (const height of ['clientHeight', 'offsetHeight'])
  Object.defineProperty(HTMLElement.prototype, height, { value: 600, configurable: true });

export async function openPage(
  component: Component,
  answers: Answers,
  { props = {}, at = '/', role = 'administrator' }: { props?: object; at?: string; role?: string } = {},
): Promise<OpenPage> {
  const asked: Asked[] = [];
  const unanswered: string[] = [];
  vi.stubGlobal('fetch', async (input: string | Request, more: RequestInit = {}) => {
    const request = new Request(typeof input === 'string' ? new URL(input, location.href) : input, more);
    const { pathname: path, searchParams: query } = new URL(request.url);
    const text = await request.text();
    const isJson = request.headers.get('content-type')?.includes('json') === true;
    const each: Asked = {
      ...{ method: request.method, path, query, version: request.headers.get('if-match') },
      body: text === '' ? null : isJson ? (JSON.parse(text) as unknown) : text,
    };
    asked.push(each);
    const key = `${request.method} ${path}`;
    const answer = { ...usual, ...answers }[key];
    if (answer === undefined) unanswered.push(key);
    const given: Answer =
      typeof answer === 'function' ? await (answer as (of: Asked) => Answer)(each) : answer;
    if (given instanceof Response) return given;
    if (given instanceof Refusal) return Response.json(given.body, { status: given.status });
    return given === null || given === undefined ? new Response(null, { status: 204 }) : Response.json(given);
  });
  const pinia = createPinia();
  setActivePinia(pinia);
  useSession().take(session(role));
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      {
        path: '/:page?/:id?/:more?',
        component: defineComponent({
          inheritAttrs: false,
          setup: (_, { attrs }) => {
            return () => h(component as never, { ...props, ...attrs });
          },
        }),
        props: ({ params }) => (params.id === '' ? {} : { id: params.id }),
      },
    ],
  });
  await router.push(at);
  const shown = mount(RouterView, {
    global: { plugins: [pinia, VueQueryPlugin, router], stubs: nativeFields },
    attachTo: document.body,
  }) as unknown as VueWrapper;
  const settled = async () => {
    for (let turn = 0; turn < 4; turn++) await flushPromises();
  };
  await settled();

  const named = (words: string | RegExp) => {
    const fits = (text: string) =>
      typeof words === 'string' ? text === words || text.startsWith(words) : words.test(text);
    const all = shown.findAll('button, a, [role=option], [role=tab]');
    const text = (each: (typeof all)[number]) =>
      (each.attributes('aria-label') ?? each.text()).replace(/\s+/g, ' ').trim();
    return all.find((each) => text(each) === words) ?? all.find((each) => fits(text(each)));
  };
  const fieldOf = (name: string): HTMLInputElement => {
    const labelled = [...document.querySelectorAll('label')].find(
      (label) => label.textContent.replace(/\s+/g, ' ').trim() === name,
    );
    const found =
      document.querySelector(`[aria-label="${name}"]:is(input, select, textarea)`) ??
      labelled?.querySelector('input, select, textarea') ??
      document.getElementById(labelled?.htmlFor ?? '');
    if (found === null || found === undefined) throw new Error(`There is no field called ${name}.`);
    return found as HTMLInputElement;
  };
  return {
    shown,
    asked,
    get sent() {
      return asked.filter(({ method }) => method !== 'GET');
    },
    address: () => router.currentRoute.value.fullPath,
    press: async (words) => {
      const found = named(words);
      if (found === undefined) throw new Error(`There is nothing to press called ${String(words)}.`);
      await found.trigger('click');
      await settled();
    },
    fill: async (name, value) => {
      const field = fieldOf(name);
      if (typeof value === 'boolean') field.checked = value;
      else if (field.tagName === 'SELECT') {
        const option = [...field.querySelectorAll('option')].find(({ textContent }) => textContent === value);
        if (option === undefined) throw new Error(`${name} has no choice called ${value}.`);
        field.value = option.value;
      } else field.value = value;
      // Typed first; taken when one leaves it.
      for (const event of ['input', 'change']) {
        field.dispatchEvent(new Event(event, { bubbles: true }));
        await settled();
      }
    },
    said: () => useNotices().notice?.text ?? '',
    text: () => shown.text().replace(/\s+/g, ' '),
    key: async (key) => {
      (document.activeElement ?? document.body).dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true }),
      );
      await settled();
    },
    settled,
    close: () => {
      shown.unmount();
      vi.unstubAllGlobals();
      document.body.innerHTML = '';
      localStorage.clear();
      expect(unanswered, 'asked, and without an answer').toEqual([]);
    },
  };
}
