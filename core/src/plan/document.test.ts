import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { StepKindName } from '../model/plan.ts';
import { checkPlan } from './check.ts';
import { keysSaid } from './keys-said.ts';
import { checkView } from './check.testing.ts';
import {
  compiledPlan,
  configure,
  emptyDocument,
  freshStep,
  insert,
  mainExit,
  move,
  moveTo,
  type Place,
  placesOf,
  type PlanDocument,
  remove,
  stepAt,
  tie,
} from './document.ts';
import { outline } from './outline.ts';
import { stepKinds } from './registry.ts';

const kinds = Object.keys(stepKinds) as StepKindName[];
const menu = (keys: string[]) => ({
  ...freshStep('keys'),
  config: { promptId: 'p', keys: keys.map((key) => ({ key, label: '' })), waitSeconds: 5, tries: 3 },
});

/** Say, Hours, Ring, Queue, Voicemail on one line. */
function line(...of: StepKindName[]): PlanDocument {
  let document = emptyDocument;
  let place: Place = 'start';
  for (const kind of of) {
    const made = insert(document, place, freshStep(kind));
    document = made.document;
    place = { after: made.id, exit: mainExit(document.steps[made.id]!) ?? 'gone' };
  }
  return document;
}
const onTheLine = (document: PlanDocument) =>
  outline(document).flatMap((each) =>
    each.kind === 'step' && each.depth === 0 ? [document.steps[each.stepId]!.kind] : [],
  );

describe('a plan is built', () => {
  test('what hung at a place follows the step that is put there', () => {
    const document = line('say', 'voicemail');
    const { document: longer } = insert(document, { after: 's1', exit: 'next' }, freshStep('ring'));
    expect(onTheLine(longer)).toEqual(['say', 'ring', 'voicemail']);
    expect(onTheLine(insert(longer, 'start', freshStep('hours')).document)).toEqual([
      'hours',
      'say',
      'ring',
      'voicemail',
    ]);
  });

  test('taken out, what led to it leads on', () => {
    expect(onTheLine(remove(line('say', 'ring', 'voicemail'), 's2'))).toEqual(['say', 'voicemail']);
    expect(remove(line('say'), 's1')).toEqual(emptyDocument);
    expect(onTheLine(remove(line('say', 'voicemail'), 's2'))).toEqual(['say']);
  });

  test('moved up and down along its line, and not past its ends', () => {
    const document = line('say', 'hours', 'ring', 'voicemail');
    expect(onTheLine(move(document, 's3', -1)!)).toEqual(['say', 'ring', 'hours', 'voicemail']);
    expect(onTheLine(move(document, 's1', 1)!)).toEqual(['hours', 'say', 'ring', 'voicemail']);
    expect(move(document, 's1', -1)).toBeNull();
    // Nothing follows voicemail: a step behind it would never be reached.
    expect(move(document, 's3', 1)).toBeNull();
  });

  test('a menu that loses a key loses its way, and no other', () => {
    const made = insert(emptyDocument, 'start', menu(['1', '2']));
    const tied = ['key1', 'key2', 'noKey'].reduce(
      (so, exit) => insert(so, { after: made.id, exit }, freshStep('end')).document,
      made.document,
    );
    const less = configure(tied, made.id, menu(['2']).config);
    expect(Object.keys(less.steps[made.id]!.exits)).toEqual(['key2', 'noKey']);
  });

  test('the list shows branches below their step, joins as that, and what leads nowhere', () => {
    const first = insert(emptyDocument, 'start', menu(['1', '2']));
    const one = insert(first.document, { after: first.id, exit: 'key1' }, freshStep('say'));
    const box = insert(one.document, { after: one.id, exit: 'next' }, freshStep('voicemail'));
    const joined = tie(box.document, { after: first.id, exit: 'key2' }, box.id);
    expect(outline(joined)).toMatchObject([
      { kind: 'step', stepId: 's1', depth: 0, number: '1' },
      { kind: 'branch', exit: 'key1', label: 'key 1', target: 's2', steps: 2 },
      { kind: 'step', stepId: 's2', depth: 1, number: '2' },
      { kind: 'open', stepId: 's2', exit: 'gone', needed: false },
      { kind: 'step', stepId: 's3', depth: 1, number: '3' },
      { kind: 'open', stepId: 's3', exit: 'full', needed: false },
      { kind: 'open', stepId: 's3', exit: 'gone' },
      { kind: 'goesTo', exit: 'key2', target: 's3' },
      { kind: 'open', exit: 'noKey', needed: true },
      { kind: 'open', exit: 'wrongKey', needed: false },
      { kind: 'open', exit: 'gone' },
    ]);
  });
});

const anyPlace = (document: PlanDocument, pick: number): Place => {
  const places: Place[] = ['start'];
  for (const [after, step] of Object.entries(document.steps))
    for (const { name: exit } of stepKinds[step.kind].exits(step.config as never))
      places.push({ after, exit });
  return places[pick % places.length]!;
};
const edit = fc.record({
  does: fc.constantFrom('insert', 'insert', 'insert', 'remove', 'move', 'tie', 'untie'),
  kind: fc.constantFrom(...kinds),
  pick: fc.nat(),
  other: fc.nat(),
});
type Edit = typeof edit extends fc.Arbitrary<infer E> ? E : never;

function edited(document: PlanDocument, { does, kind, pick, other }: Edit): PlanDocument {
  const ids = Object.keys(document.steps);
  const place = anyPlace(document, pick);
  if (does === 'insert' || ids.length === 0)
    return insert(document, place, kind === 'keys' ? menu(['1', '2', '3']) : freshStep(kind)).document;
  const id = ids[other % ids.length]!;
  if (does === 'remove') return remove(document, id);
  if (does === 'move') return move(document, id, pick % 2 === 0 ? 1 : -1) ?? document;
  return tie(document, place, does === 'tie' ? id : null);
}

describe('whatever is done to a plan', () => {
  const documents = fc
    .array(edit, { maxLength: 25 })
    .map((edits) => edits.reduce<PlanDocument>(edited, emptyDocument));

  test('every exit leads to a step that is there, every step stands in the list once, and the check ends', () => {
    const view = checkView();
    fc.assert(
      fc.property(documents, (document) => {
        for (const step of Object.values(document.steps))
          for (const target of Object.values(step.exits)) expect(document.steps).toHaveProperty(target);
        const listed = outline(document).flatMap((each) => (each.kind === 'step' ? [each.stepId] : []));
        expect([...listed].sort()).toEqual(Object.keys(document.steps).sort());
        const codes = checkPlan(compiledPlan('p', 1, document), view).map(({ code }) => code);
        expect(codes).not.toContain('exit');
        expect(codes.includes('noStart')).toBe(document.start === null);
      }),
    );
  });

  test('a step put in and taken out again leaves the plan as it was', () => {
    fc.assert(
      fc.property(documents, fc.nat(), (document, pick) => {
        const made = insert(document, anyPlace(document, pick), freshStep('say'));
        expect(remove(made.document, made.id)).toEqual(document);
      }),
    );
  });

  test('a move loses no step, and on a line of its own it is undone by the move back', () => {
    fc.assert(
      fc.property(documents, fc.nat(), (document, pick) => {
        const ids = Object.keys(document.steps);
        const id = ids[pick % Math.max(1, ids.length)];
        const moved = id === undefined ? null : move(document, id, -1);
        if (moved === null) return;
        expect(Object.keys(moved.steps).sort()).toEqual(ids.sort());
        // Both stood on one straight line: nothing else led to either of them.
        const single = ids.every((each) => {
          const places = placesOf(document, each);
          const straight = places.every(
            (place) => place === 'start' || place.exit === mainExit(document.steps[place.after]!),
          );
          return straight && places.length <= 1;
        });
        if (single) expect(move(moved, id!, 1)).toEqual(document);
        const main = mainExit(moved.steps[id!]!);
        expect(stepAt(moved, { after: id!, exit: main! })).not.toBeNull();
      }),
    );
  });
});

describe('the check', () => {
  const view = checkView({
    has: (_kind, id) => id !== 'gone',
    words: () => 'Press 1 for bookings or three for freight.',
  });
  const codes = (document: PlanDocument) => checkPlan(compiledPlan('p', 1, document), view);

  test('knows the keys of words', () => {
    expect(
      keysSaid('Press 1, press the star key, dial two; press number 4. Express 9 days.', ['en']),
    ).toEqual(['1', '*', '2', '4']);
    expect(keysSaid('We sail at 7 o’clock.', ['en'])).toEqual([]);
  });

  test('compares keys and words both ways, as doubts', () => {
    const { document, id } = insert(emptyDocument, 'start', menu(['1', '2']));
    const doubts = codes(document).filter(({ grade }) => grade === 'doubt');
    expect(doubts).toEqual([{ stepId: id, grade: 'doubt', code: 'keyNotSaid', key: '2' }]);
    expect(codes(insert(emptyDocument, 'start', menu([])).document)).toMatchObject([
      { code: 'open' },
      { code: 'noKeys' },
    ]);
  });

  test('finds a circle without a choice, and lets one by a key be', () => {
    const round = line('say', 'hours');
    const circle = tie(round, { after: 's2', exit: 'open' }, 's1');
    expect(codes(tie(circle, { after: 's2', exit: 'closed' }, 's1'))).toContainEqual(
      expect.objectContaining({ code: 'circle', grade: 'fault', steps: ['s1', 's2'] }),
    );
    const { document, id } = insert(emptyDocument, 'start', menu(['1']));
    const back = tie(document, { after: id, exit: 'key1' }, id);
    expect(codes(back).map(({ code }) => code)).toEqual(['open']);
  });

  test('says what is to be chosen, and what is gone', () => {
    expect(codes(line('say'))).toContainEqual({
      stepId: 's1',
      grade: 'fault',
      code: 'config',
      said: 'Choose a prompt',
    });
    const gone = configure(line('say'), 's1', { promptId: 'gone', againKey: null });
    expect(codes(gone)).toContainEqual({
      stepId: 's1',
      grade: 'fault',
      code: 'gone',
      kind: 'prompt',
      id: 'gone',
    });
  });
});

describe('steps moved to another place', () => {
  /** Said one after the other: s1, s2, s3, s4; each goes on to the next. */
  const line = (count: number) => {
    let document = emptyDocument;
    let place: Place = 'start';
    for (let i = 0; i < count; i++) {
      const made = insert(document, place, freshStep('say'));
      document = made.document;
      place = { after: made.id, exit: 'next' };
    }
    return document;
  };
  const order = (document: PlanDocument) =>
    outline(document).flatMap((each) => (each.kind === 'step' && each.depth === 0 ? [each.stepId] : []));

  test('one or several, forward, back and to the beginning', () => {
    const four = line(4);
    expect(order(moveTo(four, ['s1'], { after: 's3', exit: 'next' })!)).toEqual(['s2', 's3', 's1', 's4']);
    expect(order(moveTo(four, ['s3', 's4'], 'start')!)).toEqual(['s3', 's4', 's1', 's2']);
    expect(order(moveTo(four, ['s1', 's3'], { after: 's4', exit: 'next' })!)).toEqual([
      's2',
      's4',
      's1',
      's3',
    ]);
  });

  test('into a branch that led nowhere', () => {
    const { document, id } = insert(line(2), { after: 's2', exit: 'next' }, freshStep('hours'));
    const moved = moveTo(document, ['s2'], { after: id, exit: 'closed' })!;
    expect(stepAt(moved, { after: id, exit: 'closed' })).toBe('s2');
    expect(stepAt(moved, { after: 's1', exit: 'next' })).toBe(id);
  });

  test('nowhere behind themselves, nor before others when they have no usual way on', () => {
    const { document, id } = insert(line(2), { after: 's2', exit: 'next' }, freshStep('voicemail'));
    expect(moveTo(document, ['s1'], { after: 's1', exit: 'next' })).toBeNull();
    expect(moveTo(document, [id], 'start')).toBeNull();
    expect(moveTo(document, ['unheardOf'], 'start')).toBeNull();
  });

  test('whatever is moved where, every step stays, once, and ways lead only to steps', () => {
    fc.assert(
      fc.property(
        fc.array(edit, { maxLength: 20 }),
        fc.array(fc.nat(), { maxLength: 4 }),
        fc.nat(),
        (edits, picks, at) => {
          let document: PlanDocument = emptyDocument;
          for (const { kind, pick } of edits)
            document = insert(document, anyPlace(document, pick), freshStep(kind)).document;
          const all = Object.keys(document.steps);
          const ids = [...new Set(picks.flatMap((pick) => all[pick % Math.max(1, all.length)] ?? []))];
          const moved = moveTo(document, ids, anyPlace(document, at));
          if (moved === null) return;
          expect(Object.keys(moved.steps).sort()).toEqual(all.sort());
          for (const { exits } of Object.values(moved.steps))
            for (const target of Object.values(exits)) expect(target in moved.steps).toBe(true);
          expect(moved.start === null || moved.start in moved.steps).toBe(true);
        },
      ),
    );
  });
});
