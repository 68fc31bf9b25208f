import { expect, test } from 'vitest';
import { emptyDocument } from '@night-bell/core/plan/document';
import { usePlanEditing } from './plan-editing.ts';
import { usePlanSearch } from './plan-search.ts';

const names = {
  nameOf: (_kind: string, id: string) => (id === 'p' ? 'Welcome' : 'nothing yet'),
  words: (id: string) => (id === 'p' ? 'Good morning, we sail at nine.' : null),
};

test('steps are found by what they do, what they name and what is said; the next one is chosen round and round', () => {
  const editing = usePlanEditing(emptyDocument);
  for (const kind of ['say', 'hours', 'say'] as const) editing.add(kind);
  editing.set('s1', { promptId: 'p', againKey: null });
  const { find, found, nextFound } = usePlanSearch(editing, names);
  const ids = (text: string) => {
    find.value = text;
    return [...found.value];
  };
  expect(ids('  ')).toEqual([]);
  expect(ids('WELCOME')).toEqual(['s1']);
  expect(ids('sail at nine')).toEqual(['s1']);
  expect(ids('hours')).toEqual(['s2']);
  expect(ids('nowhere to be found')).toEqual([]);
  nextFound();
  expect(editing.chosen.value).toBe('s3');

  expect(ids('say')).toEqual(['s1', 's3']);
  nextFound();
  expect(editing.chosen.value).toBe('s1');
  nextFound();
  expect(editing.chosen.value).toBe('s3');
});
