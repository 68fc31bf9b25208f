// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { Answer } from '@night-bell/core/plan/phrases';
import { show } from '../../testing.ts';
import AnswerChoices from './AnswerChoices.vue';

afterEach(() => (document.body.innerHTML = ''));

/** Beside what it tells its page, which gives that back to it. */
function asked(answers: Answer[], readonly = false) {
  const told: (readonly Answer[])[] = [];
  const page = show(AnswerChoices, {
    ...{ modelValue: answers, readonly },
    'onUpdate:modelValue': (value: readonly Answer[]) => {
      told.push(value);
      void page.setProps({ modelValue: value } as never);
    },
  });
  return { page, told };
}
const times: Answer = { id: 'a1', name: 'Times', phrases: ['sailing times'] };

test('an answer more has a name of its own, also where others were taken out', async () => {
  const { page, told } = asked([{ ...times, id: 'a2' }]);
  await page.get('.link').trigger('click');
  expect(told.at(-1)!.map(({ id }) => id)).toEqual(['a2', 'a3']);
  await page.get('[aria-label="Take Times out"]').trigger('click');
  expect(told.at(-1)!.map(({ id }) => id)).toEqual(['a3']);
  await page.get('.link').trigger('click');
  expect(told.at(-1)!.map(({ id }) => id)).toEqual(['a3', 'a2']);
});

test('phrases are typed or pasted a line each; empty ones and the same twice are left out', async () => {
  const { page, told } = asked([times]);
  await page
    .get('[aria-label="Phrases of Times"]')
    .setValue('when, timetable\n\n  Timetable! \n…\nthe next boat');
  expect(told.at(-1)![0]!.phrases).toEqual(['when', 'timetable', 'the next boat']);
  await page.get('[aria-label="What answer 1 is called"]').setValue('Timetable');
  expect(told.at(-1)![0]).toMatchObject({ id: 'a1', name: 'Timetable' });
});

test('who only reads adds and takes out nothing', () => {
  const { page } = asked([times], true);
  expect(page.findAll('button')).toHaveLength(0);
  expect(page.get('textarea').attributes('readonly')).toBeDefined();
});
