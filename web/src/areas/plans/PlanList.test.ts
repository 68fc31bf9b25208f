// @vitest-environment happy-dom
import { nextTick } from 'vue';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { emptyDocument } from '@night-bell/core/plan/document';
import { show } from '../../testing.ts';
import { usePlanEditing } from './plan-editing.ts';
import PlanList from './PlanList.vue';
import type { PlanNames } from './plan-names.ts';

const names = { nameOf: (kind: string, id: string) => `${kind} ${id}` } as unknown as PlanNames;

/** Hours, then a greeting, then a menu; closed leads to voicemail. */
function built() {
  const editing = usePlanEditing(emptyDocument);
  editing.add('hours');
  editing.add('say');
  editing.add('keys');
  editing.add('voicemail', { after: 's1', exit: 'closed' });
  editing.choose('s1');
  return editing;
}
function list(editing = built()) {
  const numbers = () =>
    new Map(
      editing.lines.value.flatMap((line) => (line.kind === 'step' ? [[line.stepId, line.number]] : [])) as [
        string,
        string,
      ][],
    );
  return show(PlanList, {
    ...{ editing, names, findings: [], readonly: false, difference: () => '', found: new Set<string>() },
    numberOf: (id: string) => numbers().get(id) ?? '?',
  });
}
const order = (shown: ReturnType<typeof list>) =>
  shown.findAll('.step').map((row) => row.attributes('data-step'));
afterEach(() => (document.body.innerHTML = ''));

describe('a plan as a list', () => {
  test('shows steps with what they do, branches below their step, and ways that lead nowhere', () => {
    const text = list().text();
    expect(text).toContain('Ask the hours of hours');
    expect(text).toContain('closed: 1 step');
    expect(text).toContain('no key in time: leads nowhere');
    expect(order(list())).toEqual(['s1', 's4', 's2', 's3']);
  });

  test('arrows choose, fold and unfold; with Alt they move the step, or say that it cannot go there', async () => {
    const editing = built();
    const shown = list(editing);
    const tree = shown.find('[role=tree]');
    await tree.trigger('keydown', { key: 'ArrowLeft' });
    expect(order(shown)).toEqual(['s1', 's2', 's3']);
    await tree.trigger('keydown', { key: 'ArrowRight' });
    await tree.trigger('keydown', { key: 'End' });
    expect(editing.chosen.value).toBe('s3');
    await tree.trigger('keydown', { key: 'ArrowUp' });
    expect(editing.chosen.value).toBe('s2');
    await tree.trigger('keydown', { key: 'ArrowUp', altKey: true });
    expect(order(shown)[0]).toBe('s2');
    await tree.trigger('keydown', { key: 'ArrowUp', altKey: true });
    expect(shown.find('[role=status]').text()).toBe('This step cannot go there.');
  });

  test('Delete takes the chosen step out, undo brings it back, redo takes it out again', async () => {
    const editing = built();
    const shown = list(editing);
    editing.choose('s2');
    await shown.find('[role=tree]').trigger('keydown', { key: 'Delete' });
    expect(order(shown)).not.toContain('s2');
    editing.undo();
    await shown.vm.$nextTick();
    expect(order(shown)).toContain('s2');
    editing.redo();
    await shown.vm.$nextTick();
    expect(order(shown)).not.toContain('s2');
  });

  test('a copied step goes into another plan, without its ways', () => {
    const one = built();
    one.choose('s2');
    one.copy();
    const other = usePlanEditing(emptyDocument);
    other.paste();
    expect(Object.values(other.document.value.steps)).toEqual([
      { kind: 'say', config: { promptId: '', againKey: null }, exits: {} },
    ]);
  });
});

test('Shift with arrows marks several; they are taken out and brought back as one', async () => {
  const editing = built();
  const shown = list(editing);
  const tree = shown.find('[role=tree]');
  await tree.trigger('keydown', { key: 'ArrowDown', shiftKey: true });
  expect([...editing.marked.value].sort()).toEqual(['s1', 's4']);
  expect(shown.findAll('.marked')).toHaveLength(2);
  await tree.trigger('keydown', { key: 'Delete' });
  expect(Object.keys(editing.document.value.steps).sort()).toEqual(['s2', 's3']);
  editing.undo();
  expect(Object.keys(editing.document.value.steps)).toHaveLength(4);
});

test('marked steps are pasted one behind the other, into another plan too', () => {
  const editing = built();
  editing.choose('s2');
  editing.mark('s3');
  editing.copy();
  const other = usePlanEditing(emptyDocument);
  other.paste();
  expect(Object.values(other.document.value.steps).map(({ kind }) => kind)).toEqual(['say', 'keys']);
});

test('a step dragged by its number goes where it is dropped; Escape leaves it', async () => {
  const editing = built();
  const shown = list(editing);
  const handle = () => shown.find('[data-step="s2"] .handle');
  vi.stubGlobal('requestAnimationFrame', (work: () => void) => {
    work();
    return 1;
  });
  const drag = async (keys: boolean) => {
    await handle().trigger('pointerdown', { button: 0, clientY: 100 });
    window.dispatchEvent(new MouseEvent('pointermove', { clientY: -50 }));
    expect(shown.find('.drop-line').classes()).toContain('shown');
    window.dispatchEvent(
      keys ? new KeyboardEvent('keydown', { key: 'Escape' }) : new MouseEvent('pointerup'),
    );
    await nextTick();
  };
  await drag(true);
  expect(editing.document.value.start).toBe('s1');
  await drag(false);
  expect(editing.document.value.start).toBe('s2');
  expect(shown.find('.carried').exists()).toBe(false);
  vi.unstubAllGlobals();
});
