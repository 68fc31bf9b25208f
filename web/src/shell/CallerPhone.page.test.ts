// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { type Asked, type OpenPage, openPage } from '../page.testing.ts';
import CallerPhone from './CallerPhone.vue';
import { useTestCall } from './test-call.ts';

let page: OpenPage;
afterEach(() => page.close());

interface Hand {
  moves: { does: string; afterMs: number }[];
  untilMs: number;
}
const state = (more: object = {}) => ({
  ...{ atMs: 0, over: false, hears: null, keys: [], listens: false, rings: [], talksWith: null },
  ...more,
});
/** Plays by hand, answered each time with what `hears` says. */
const open = async (hears: (hand: Hand) => object) => {
  const hands: Hand[] = [];
  page = await openPage(CallerPhone, {
    'GET /api/prompts': [],
    'POST /api/test-calls': ({ body }: Asked) => {
      const { hand } = body as { hand: Hand | null };
      if (hand !== null) hands.push(hand);
      return {
        ...{ to: '+1', from: '+2', at: 0, story: [], path: [], assumptions: [] },
        outcome: { kind: 'stillWaiting', afterMs: 0 },
        ...(hand === null ? {} : { hand: state(hears(hand)) }),
      };
    },
  });
  useTestCall().to = '+12065550140';
  await page.press('Play it by hand');
  await page.settled();
  return hands;
};

test('keys are pressed one after the other, each at the moment the call has come to', async () => {
  const hands = await open(() => ({ hears: { promptId: 'p', words: 'Press 1 or 2.' }, keys: ['1', '2'] }));
  expect(page.text()).toContain('“Press 1 or 2.”');
  expect(page.shown.findAll('.key.offered').map((each) => each.text())).toEqual(['1', '2']);
  await page.press('2');
  await page.press('Wait 10 s');
  await page.press('Hang up');
  await page.settled();
  expect(hands.at(-1)).toMatchObject({
    moves: [
      { does: 'key', key: '2', afterMs: 0 },
      { does: 'hangUp', afterMs: 11_000 },
    ],
    untilMs: 12_000,
  });
  await page.press('Again');
  await page.settled();
  expect(hands.at(-1)).toEqual({ moves: [], untilMs: 0 });
});

test('where somebody listens there is a place for words; an empty one says nothing', async () => {
  const hands = await open(({ moves }) => ({ listens: moves.length === 0 }));
  const form = page.shown.get('form');
  await form.trigger('submit');
  expect(hands).toHaveLength(1);
  await page.fill('What the caller says', '  The sailing times ');
  await form.trigger('submit');
  await page.settled();
  expect(hands.at(-1)!.moves).toMatchObject([{ does: 'say', words: 'The sailing times' }]);
  expect(page.shown.find('form').exists()).toBe(false);
});

test('whoever is rung lifts or declines; keys do all of it too', async () => {
  const hands = await open(({ moves }) =>
    moves.some(({ does }) => does === 'lift')
      ? { talksWith: 'Ines Calloway' }
      : { rings: [{ personId: 'i', name: 'Ines Calloway' }] },
  );
  expect(page.text()).toContain('Ines Calloway is rung');
  const phone = page.shown.get('.phone');
  await phone.trigger('keydown', { key: '5' });
  await phone.trigger('keydown', { key: 'ArrowRight' });
  await phone.trigger('keydown', { key: '9', ctrlKey: true });
  await phone.trigger('keydown', { key: 'l' });
  await page.settled();
  expect(hands.at(-1)!.moves).toMatchObject([
    { does: 'key', key: '5' },
    { does: 'lift', personId: 'i' },
  ]);
  expect(page.text()).toContain('Talks with Ines Calloway.');
});

test('a call that is over takes nothing more', async () => {
  const hands = await open(() => ({ over: true }));
  expect(page.text()).toContain('The call is over.');
  await page.shown.get('.phone').trigger('keydown', { key: '1' });
  await page.settled();
  expect(hands).toHaveLength(1);
});
