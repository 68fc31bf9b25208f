// @vitest-environment happy-dom
import { defineComponent, h, nextTick } from 'vue';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { emptyDocument, type PlanDocument } from '@night-bell/core/plan/document';
import { ApiProblem } from '../../api/client.ts';
import { planApi } from '../../api/plans.ts';
import { show } from '../../testing.ts';
import { type PlanEditing, unsaved, usePlanEditing } from './plan-editing.ts';
import { usePlanSaving } from './plan-saving.ts';

const saying: PlanDocument = {
  start: 's1',
  steps: { s1: { kind: 'say', config: { promptId: 'p', againKey: null }, exits: {} } },
};
const ending: PlanDocument = { start: 's1', steps: { s1: { kind: 'end', config: {}, exits: {} } } };
const plan = (version: number, document: PlanDocument): PlanView => ({
  ...{ id: 'plan', name: 'Main line', version, retired: false, document },
  ...{ published: null, live: null, scheduled: null, numbers: [], uses: 0 },
  rights: { teamId: null, publishes: false },
});

let editing: PlanEditing;
let saving: ReturnType<typeof usePlanSaving>;

/** Somebody at a plan, as the editor has it. */
function open(first: PlanView) {
  const Editor = defineComponent({
    props: { plan: { type: Object, required: true } },
    setup(props) {
      editing = usePlanEditing(unsaved.get('plan')?.document ?? first.document);
      saving = usePlanSaving(
        () => props.plan as PlanView,
        editing,
        () => false,
      );
      return () => h('p');
    },
  });
  return show(Editor, { plan: first });
}
const change = vi.spyOn(planApi, 'change');

beforeEach(() => {
  vi.spyOn(planApi, 'list').mockResolvedValue([]);
  change.mockReset();
});
afterEach(() => {
  document.body.innerHTML = '';
  unsaved.clear();
});

describe('somebody else saves the plan', () => {
  test('and nothing is at stake here: their steps are taken over', async () => {
    const page = open(plan(1, emptyDocument));
    await page.setProps({ plan: plan(2, ending) });
    expect(saving.changed.value).toBe(false);
    expect(editing.document.value).toEqual(ending);
    expect(editing.canUndo.value).toBe(false);
  });

  test('while steps were built here: these stay, saving says who, and either are kept by choice', async () => {
    const page = open(plan(1, emptyDocument));
    editing.become(saying);
    await page.setProps({ plan: plan(2, ending) });
    expect([saving.changed.value, editing.document.value]).toEqual([true, saying]);

    const theirs = plan(2, ending);
    change.mockImplementation((_id, version) =>
      version === 2
        ? Promise.resolve(plan(3, saying))
        : Promise.reject(
            new ApiProblem('changedMeanwhile', 'Changed meanwhile.', { current: theirs, by: 'Pia' } as never),
          ),
    );
    expect(await saving.save()).toBe(false);
    expect(saving.conflict.value).toMatchObject({ by: 'Pia', current: theirs });
    await saving.mine();
    expect(change.mock.calls.map(([, version]) => version)).toEqual([1, 2]);
    expect([saving.conflict.value, saving.changed.value]).toEqual([null, false]);
  });

  test('theirs are taken, and mine come back by undo', async () => {
    open(plan(1, emptyDocument));
    editing.become(saying);
    saving.conflict.value = { by: 'Pia', current: plan(2, ending) };
    vi.spyOn(planApi, 'read').mockResolvedValue({ item: plan(2, ending), usedBy: [] });
    await saving.theirs();
    expect(editing.document.value).toEqual(ending);
    expect(saving.changed.value).toBe(false);
    editing.undo();
    expect(editing.document.value).toEqual(saying);
  });

  test('only to publish it: what was built here goes on, on the version that is there now', async () => {
    const page = open(plan(1, emptyDocument));
    editing.become(saying);
    await page.setProps({ plan: plan(2, emptyDocument) });
    change.mockResolvedValue(plan(3, saying));
    expect(await saving.save()).toBe(true);
    expect(change.mock.calls[0]![1]).toBe(2);
  });
});

test('who leaves with unsaved steps finds them again', async () => {
  const page = open(plan(1, emptyDocument));
  editing.become(saying);
  page.unmount();
  await nextTick();
  open(plan(1, emptyDocument));
  expect([editing.document.value, saving.changed.value]).toEqual([saying, true]);
});
