// @vitest-environment happy-dom
import { nextTick } from 'vue';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { emptyDocument } from '@night-bell/core/plan/document';
import type { PathStep } from '@night-bell/core/rehearse/test-call';
import { show } from '../../../testing.ts';
import { type PlanEditing, usePlanEditing } from '../plan-editing.ts';
import { numbersOf } from '../plan-lines.ts';
import type { PlanNames } from '../plan-names.ts';
import { drawStrand, pointOf } from './geometry.ts';
import PlanPicture from './PlanPicture.vue';
import { layOut } from '@night-bell/core/plan/layout';

const names = { nameOf: (kind: string, id: string) => id || kind } as unknown as PlanNames;

/** Hours, a greeting, and a message when closed. */
function built() {
  const editing = usePlanEditing(emptyDocument);
  editing.add('hours');
  editing.add('say');
  editing.add('keys');
  editing.add('voicemail', { after: 's1', exit: 'closed' });
  editing.choose('s1');
  return editing;
}
function picture(editing: PlanEditing, more: Partial<{ path: PathStep[]; readonly: boolean }> = {}) {
  return show(PlanPicture, {
    ...{ editing, names, findings: [], readonly: false, found: new Set<string>(), path: [] as PathStep[] },
    document: editing.document.value,
    label: 'Picture of this plan',
    arrives: '+1 206 555 0140',
    difference: () => '',
    numberOf: (id: string) => numbersOf(editing.lines.value).get(id) ?? '?',
    ...more,
  });
}
type Shown = ReturnType<typeof picture>;
const tree = (shown: Shown) => shown.find('[role=tree]');
const says = (shown: Shown) => shown.find('[role=status]').text();
const steps = (shown: Shown) => shown.findAll('[role=treeitem]').map((each) => each.attributes('data-step'));

/** Presses on something and lets go over a point of the picture. */
async function carry(shown: Shown, from: string, to: { x: number; y: number }, last = 'pointerup') {
  await shown.find(from).trigger('pointerdown', { button: 0, clientX: 900, clientY: 900 });
  window.dispatchEvent(new MouseEvent('pointermove', { clientX: to.x, clientY: to.y }));
  window.dispatchEvent(
    last === 'Escape' ? new KeyboardEvent('keydown', { key: last }) : new MouseEvent(last),
  );
  await nextTick();
}
const middleOf = (editing: PlanEditing, after: string, exit: string) => {
  const strand = layOut(editing.document.value).strands.find(
    ({ place }) => place !== 'start' && place.after === after && place.exit === exit,
  )!;
  const { end } = drawStrand(strand);
  return { x: end.x - 40, y: end.y };
};

beforeEach(() => {
  // Large enough that nothing is moved to be seen.
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(4_000);
  vi.spyOn(HTMLElement.prototype, 'clientHeight', 'get').mockReturnValue(4_000);
});
afterEach(() => {
  vi.restoreAllMocks();
  document.body.innerHTML = '';
});

describe('a plan as a picture', () => {
  test('for who listens every step is an item that says what it does and where its ways lead', () => {
    const shown = picture(built());
    expect(steps(shown).sort()).toEqual(['s1', 's2', 's3', 's4']);
    const label = shown.find('[data-step=s1]').attributes('aria-label');
    expect(label).toContain('1. Ask the hours of');
    expect(label).toContain('open: 3. closed: 2');
    expect(shown.find('[data-step=s3]').attributes('aria-label')).toContain('no key in time: leads nowhere');
    expect(tree(shown).attributes('aria-activedescendant')).toBe(
      shown.find('[data-step=s1]').attributes('id'),
    );
  });

  test('right follows the rope, left goes back, down goes to what hangs below', async () => {
    const editing = built();
    const shown = picture(editing);
    const press = (key: string, more = {}) => tree(shown).trigger('keydown', { key, ...more });
    await press('ArrowRight');
    expect(editing.chosen.value).toBe('s2');
    await press('ArrowRight');
    expect(editing.chosen.value).toBe('s3');
    await press('ArrowLeft');
    expect(editing.chosen.value).toBe('s2');
    await press('ArrowDown');
    expect(editing.chosen.value).toBe('s4');
    await press('ArrowUp');
    expect(editing.chosen.value).toBe('s2');
    await press('ArrowLeft', { altKey: true });
    expect(editing.document.value.start).toBe('s2');
    await press('ArrowLeft', { altKey: true });
    expect(says(shown)).toBe('This step cannot go there.');
  });

  test('Shift marks on the way; Delete takes out all that is marked', async () => {
    const editing = built();
    const shown = picture(editing);
    await tree(shown).trigger('keydown', { key: 'ArrowRight', shiftKey: true });
    expect([...editing.marked.value].sort()).toEqual(['s1', 's2']);
    await tree(shown).trigger('keydown', { key: 'Delete' });
    expect(Object.keys(editing.document.value.steps).sort()).toEqual(['s3', 's4']);
  });

  test('Space folds what hangs from a step, and unfolds it; the picture says how much it is', async () => {
    const editing = built();
    const shown = picture(editing);
    await tree(shown).trigger('keydown', { key: ' ' });
    expect(steps(shown).sort()).toEqual(['s1', 's2', 's3']);
    expect(shown.text()).toContain('1 step folded');
    await tree(shown).trigger('keydown', { key: ' ' });
    expect(steps(shown)).toContain('s4');
    editing.choose('s2');
    await tree(shown).trigger('keydown', { key: ' ' });
    expect(says(shown)).toBe('Nothing hangs here.');
  });

  test('what is chosen elsewhere is unfolded', async () => {
    const editing = built();
    const shown = picture(editing);
    await tree(shown).trigger('keydown', { key: ' ' });
    editing.choose('s4');
    await nextTick();
    await nextTick();
    await nextTick();
    expect(steps(shown)).toContain('s4');
  });

  test('the way of the test call is lit', () => {
    const shown = picture(built(), {
      path: [
        { planId: 'draft', stepId: 's1', by: null },
        { planId: 'draft', stepId: 's4', by: { stepId: 's1', exit: 'closed' } },
      ],
    });
    const lit = shown.findAll('.strand.lit').map((each) => each.attributes('data-way'));
    expect(lit).toEqual(['start', 's1 closed']);
    expect(shown.find('[data-step=s4] .step').classes()).toContain('lit');
    expect(shown.find('[data-step=s2] .step').classes()).not.toContain('lit');
  });
});

describe('by the pointer', () => {
  test('a step from the shelf is tied in where it is dropped', async () => {
    const editing = built();
    const shown = picture(editing);
    await carry(shown, '.shelf button', middleOf(editing, 's1', 'closed'));
    const { steps: now } = editing.document.value;
    const tied = now.s1!.exits.closed!;
    expect(now[tied]).toMatchObject({ kind: 'say', exits: { next: 's4' } });
    expect(says(shown)).toBe('Say is tied in.');
  });

  test('a step goes to the rope it is dropped on; one let go by Escape stays', async () => {
    const editing = built();
    const shown = picture(editing);
    const onto = middleOf(editing, 's1', 'closed');
    await carry(shown, '[data-step=s2]', onto, 'Escape');
    expect(editing.document.value.steps.s1!.exits).toEqual({ open: 's2', closed: 's4' });
    await carry(shown, '[data-step=s2]', onto);
    expect(editing.document.value.steps.s1!.exits).toEqual({ open: 's3', closed: 's2' });
    expect(editing.document.value.steps.s2!.exits).toEqual({ next: 's4' });
  });

  test('a loose end dropped onto a step joins it', async () => {
    const editing = built();
    const shown = picture(editing);
    const target = layOut(editing.document.value).steps.find(({ stepId }) => stepId === 's4')!;
    await carry(shown, '[data-way="s3 noKey"] .loose', pointOf(target));
    expect(editing.document.value.steps.s3!.exits).toEqual({ noKey: 's4' });
  });

  test('who may only look carries nothing, and has no shelf', async () => {
    const editing = built();
    const shown = picture(editing, { readonly: true });
    expect(shown.find('.shelf').exists()).toBe(false);
    await carry(shown, '[data-step=s2]', middleOf(editing, 's1', 'closed'));
    await tree(shown).trigger('keydown', { key: 'Delete' });
    expect(Object.keys(editing.document.value.steps)).toHaveLength(4);
  });
});

test('a long plan begins with its branches folded, and is unfolded whole', async () => {
  const editing = built();
  for (let count = 0; count < 70; count++) editing.add('say', { after: 's1', exit: 'closed' });
  const shown = picture(editing);
  expect(steps(shown).length).toBeLessThan(10);
  await shown.findAll('.sizes .link').at(-1)!.trigger('click');
  expect(steps(shown)).toHaveLength(74);
});
