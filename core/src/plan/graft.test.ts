import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { emptyDocument, freshStep, insert, type PlanDocument, tie } from './document.ts';
import { copyOf, graft } from './graft.ts';
import { stepKinds } from './registry.ts';

/** Hours, then a menu; closed leads to voicemail; key 1 to a queue. */
function plan(): PlanDocument {
  let { document } = insert(emptyDocument, 'start', freshStep('hours'));
  ({ document } = insert(document, { after: 's1', exit: 'open' }, freshStep('say')));
  ({ document } = insert(document, { after: 's1', exit: 'closed' }, freshStep('voicemail')));
  ({ document } = insert(document, { after: 's2', exit: 'next' }, freshStep('queue')));
  return document;
}
const put = (ids: string[], place: Parameters<typeof graft>[1], into = plan()) =>
  graft(into, place, copyOf(plan(), ids));

describe('copied steps', () => {
  test('keep the ways between them, and leave those to others open', () => {
    const { document, id } = put(['s1', 's3', 's2'], { after: 's2', exit: 'next' })!;
    expect(id).toBe('s5');
    expect(document.steps.s2!.exits).toEqual({ next: 's5' });
    expect(document.steps.s5!.exits).toEqual({ open: 's7', closed: 's6' });
    // What hung there follows the last on the usual way.
    expect(document.steps.s7!.exits).toEqual({ next: 's4' });
    expect(document.steps.s6!.exits).toEqual({});
  });

  test('that have nothing to do with each other come one behind the other', () => {
    const { document } = put(['s2'], 'start')!;
    expect(document.start).toBe('s5');
    const two = graft(emptyDocument, 'start', {
      ids: ['a', 'b'],
      steps: { a: freshStep('say'), b: freshStep('say') },
    })!;
    expect(two.document).toMatchObject({ start: 's1', steps: { s1: { exits: { next: 's2' } } } });
  });

  test('behind what has no usual way on there is no place: they are left out', () => {
    const copied = { ids: ['a', 'b'], steps: { a: freshStep('end'), b: freshStep('say') } };
    expect(Object.keys(graft(emptyDocument, 'start', copied)!.document.steps)).toEqual(['s1']);
  });

  test('none are nothing', () => expect(put([], 'start')).toBeNull());

  const kinds = fc.constantFrom('say', 'hours', 'queue', 'voicemail', 'keys', 'end', 'record');
  test('a whole plan put into an empty one is the same plan under other names, and no step is touched', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(kinds, fc.nat(), fc.nat()), { minLength: 1, maxLength: 12 }), (made) => {
        let document = emptyDocument;
        made.forEach(([kind, where, which], i) => {
          if (i === 0) return void ({ document } = insert(document, 'start', freshStep(kind)));
          const ids = Object.keys(document.steps);
          const after = ids[where % ids.length]!;
          const exits = stepKinds[document.steps[after]!.kind].exits(document.steps[after]!.config as never);
          const exit = exits[which % Math.max(1, exits.length)]?.name;
          if (exit !== undefined && document.steps[after]!.exits[exit] === undefined)
            ({ document } = insert(document, { after, exit }, freshStep(kind)));
        });
        const ids = inOrder(document);
        const { document: other } = graft(emptyDocument, 'start', copyOf(document, ids))!;
        const nameOf = new Map(inOrder(other).map((id, i) => [id, i]));
        const shape = (of: PlanDocument, order: (id: string) => number | undefined) =>
          inOrder(of).map((id) => [
            of.steps[id]!.kind,
            Object.entries(of.steps[id]!.exits).map(([exit, to]) => [exit, order(to)]),
          ]);
        expect(shape(other, (id) => nameOf.get(id))).toEqual(shape(document, (id) => ids.indexOf(id)));
        const before = JSON.stringify(document);
        graft(document, 'start', copyOf(document, ids.slice(0, 3)));
        expect(JSON.stringify(document)).toBe(before);
      }),
    );
  });
});

/** From the beginning, each step once. */
function inOrder(document: PlanDocument): string[] {
  const seen: string[] = [];
  const visit = (id: string) => {
    if (seen.includes(id)) return;
    seen.push(id);
    for (const to of Object.values(document.steps[id]!.exits)) visit(to);
  };
  if (document.start !== null) visit(document.start);
  return seen;
}

test('a way that leads back among them is kept', () => {
  const round = tie(plan(), { after: 's4', exit: 'waitedTooLong' }, 's2');
  const { document } = graft(emptyDocument, 'start', copyOf(round, ['s2', 's4']))!;
  expect(document.steps.s2!.exits).toEqual({ waitedTooLong: 's1' });
});
