// @vitest-environment happy-dom
import { expect, test } from 'vitest';
import { emptyDocument } from '@night-bell/core/plan/document';
import { usePlanEditing } from './plan-editing.ts';

/** Hours, then words, then a menu; closed leads to voicemail. */
function built() {
  const editing = usePlanEditing(emptyDocument);
  editing.add('hours');
  editing.add('say');
  editing.add('keys');
  editing.add('voicemail', { after: 's1', exit: 'closed' });
  return editing;
}
const exits = (editing: ReturnType<typeof built>, id: string) => editing.document.value.steps[id]!.exits;

test('a step more comes behind the chosen one, by its usual way or the first that is open', () => {
  const editing = built();
  expect(editing.chosen.value).toBe('s4');
  editing.choose('s1');
  editing.add('record');
  expect(exits(editing, 's1')).toEqual({ open: 's5', closed: 's4' });
  expect(exits(editing, 's5')).toEqual({ known: 's2' });
  // A menu has no usual way: what needs one is taken first.
  editing.choose('s3');
  editing.add('queue');
  expect(exits(editing, 's3')).toEqual({ noKey: 's6' });
});

test('each change is undone and redone on its own, and a new one forgets what was undone', () => {
  const editing = built();
  const whole = editing.document.value;
  editing.undo();
  expect(Object.keys(editing.document.value.steps)).toHaveLength(3);
  expect([editing.canUndo.value, editing.canRedo.value]).toEqual([true, true]);
  editing.redo();
  expect(editing.document.value).toBe(whole);
  editing.undo();
  editing.choose('s2');
  editing.add('end');
  expect(editing.canRedo.value).toBe(false);
  // What changes nothing is no change.
  const before = editing.document.value;
  editing.become(before);
  editing.undo();
  expect(editing.document.value).not.toBe(before);
});

test('the chosen step is one that is there, whatever is undone or taken out', () => {
  const editing = built();
  editing.undo();
  expect(editing.chosen.value).toBe('s1');
  editing.choose('s2');
  editing.takeOut('s2');
  expect(editing.chosen.value).toBe('s3');
  expect(exits(editing, 's1')).toMatchObject({ open: 's3' });
  editing.restart(emptyDocument);
  expect([editing.chosen.value, editing.canUndo.value]).toEqual([null, false]);
});

test('marked ones are meant together, in the order of the list; one alone is not marked', () => {
  const editing = built();
  editing.choose('s3');
  editing.mark('s2');
  expect(editing.meant.value).toEqual(['s2', 's3']);
  editing.mark('s2');
  expect([...editing.marked.value]).toEqual([]);
  editing.mark('s4');
  editing.takeOutMeant();
  expect(Object.keys(editing.document.value.steps)).toEqual(['s1', 's2']);
  editing.undo();
  expect(Object.keys(editing.document.value.steps)).toHaveLength(4);
});

test('what is copied goes into another plan, with the ways between it, as one change', () => {
  const editing = built();
  editing.choose('s1');
  editing.mark('s2');
  editing.mark('s4');
  editing.copy();
  const other = usePlanEditing(emptyDocument);
  other.paste();
  expect(other.document.value.start).toBe('s1');
  const [first] = Object.values(other.document.value.steps);
  expect(Object.keys(first!.exits).sort()).toEqual(['closed', 'open']);
  expect(other.chosen.value).toBe('s1');
  other.undo();
  expect(other.document.value).toEqual(emptyDocument);
});

test('a step is moved along its line, and says where it cannot go', () => {
  const editing = built();
  expect(editing.moveBy('s2', 1)).toBe(false);
  expect(editing.moveBy('s2', -1)).toBe(true);
  expect(editing.document.value.start).toBe('s2');
  expect(editing.moveMeant(['s4'], { after: 's4', exit: 'full' })).toBe(false);
});
