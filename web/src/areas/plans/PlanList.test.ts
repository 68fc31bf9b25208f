// @vitest-environment happy-dom
import { afterEach, describe, expect, test } from 'vitest';
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
    ...{ editing, names, findings: [], readonly: false, beside: null },
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
    one.copy('s2');
    const other = usePlanEditing(emptyDocument);
    other.paste();
    expect(Object.values(other.document.value.steps)).toEqual([
      { kind: 'say', config: { promptId: '', againKey: null }, exits: {} },
    ]);
  });
});
