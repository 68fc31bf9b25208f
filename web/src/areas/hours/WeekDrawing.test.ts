// @vitest-environment happy-dom
import { afterEach, describe, expect, test } from 'vitest';
import type { Week } from '@night-bell/core/hours/week';
import { show } from '../../testing.ts';
import WeekDrawing from './WeekDrawing.vue';

const week: Week = [[[540, 1_020]], [], [], [], [[1_320, 360]], [], []];
const drawing = (readonly = false) => show(WeekDrawing, { week, readonly, chosen: null });
const changes = (shown: ReturnType<typeof drawing>) => (shown.emitted('change') ?? []) as [Week][];
afterEach(() => (document.body.innerHTML = ''));

describe('a week that is drawn', () => {
  test('says each range, and that one runs into the next day', () => {
    const labels = drawing()
      .findAll('.range')
      .map((range) => range.attributes('aria-label'));
    expect(labels).toEqual([
      'Monday opens, 09:00; closes 17:00',
      'Friday opens, 22:00; closes 06:00 on Saturday',
    ]);
  });

  test('an end is moved by the arrow keys: a quarter, with Shift an hour, with Alt a minute', async () => {
    const shown = drawing();
    const post = shown.find('[aria-label="Monday closes"]');
    await post.trigger('keydown', { key: 'ArrowRight' });
    await post.trigger('keydown', { key: 'ArrowLeft', shiftKey: true });
    await post.trigger('keydown', { key: 'ArrowRight', altKey: true });
    expect(changes(shown).map(([next]) => next[0]![0])).toEqual([
      [540, 1_035],
      [540, 960],
      [540, 1_021],
    ]);
  });

  test('all of a range moves from its middle; Delete takes it out', async () => {
    const shown = drawing();
    const range = shown.find('.range');
    await range.trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    await range.trigger('keydown', { key: 'Delete' });
    expect(changes(shown).map(([next]) => next[0])).toEqual([[[600, 1_080]], []]);
  });

  test('nine to five is added where it is free, and what of the day is free else', async () => {
    const shown = drawing();
    await shown.find('[aria-label="Add a range on Tuesday"]').trigger('click');
    await shown.find('[aria-label="Add a range on Monday"]').trigger('click');
    const [[tuesday], [monday]] = changes(shown) as [[Week], [Week]];
    expect(tuesday[1]).toEqual([[540, 1_020]]);
    expect(monday[0]).toEqual([
      [0, 480],
      [540, 1_020],
    ]);
  });

  test('who may only read moves nothing', async () => {
    const shown = drawing(true);
    await shown.find('[aria-label="Monday closes"]').trigger('keydown', { key: 'ArrowRight' });
    expect(shown.emitted('change')).toBeUndefined();
    expect(shown.find('.add').exists()).toBe(false);
  });
});
