// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { Candidate } from '@night-bell/core/distribute/candidates';
import type { StoryRecord } from '@night-bell/core/story/records';
import { show } from '../../testing.ts';
import DecisionTable from './DecisionTable.vue';

afterEach(() => (document.body.innerHTML = ''));

const candidate = (personId: string, more: Partial<Candidate> = {}): Candidate =>
  ({
    ...{ personId, reasons: [], idleSince: 40_000, triedBefore: false, phone: 'softphone' },
    ...{ state: 'available', stateSince: 40_000, ...more },
  }) satisfies Candidate;
type Decision = Extract<StoryRecord, { kind: 'decision' }>;
const table = (listed: Candidate[], more: Partial<Decision> = {}) =>
  show(DecisionTable, {
    ...{ start: 30_000, outcome: (personId: string) => (personId === 'a' ? 'Answered' : 'Taken by Ann') },
    decision: {
      ...{ callId: 'c', at: 100_000, kind: 'decision', queueId: 'q', queueName: 'Bookings' },
      ...{ chosen: 'a', chosenName: 'Ann', why: 'longestIdle', owner: null, ringSeconds: 15 },
      candidates: { total: listed.length, eligible: listed.length, listed, counts: {} },
      names: { a: 'Ann', b: 'Ben', c: 'Cy' },
      ...more,
    } as unknown as Decision,
  });
const rows = (shown: ReturnType<typeof table>) =>
  shown.findAll('tbody tr').map((row) => row.findAll('td').map((cell) => cell.text().replace(/\s+/g, ' ')));

test('who was chosen, who stood in line and who was skipped, each with why', () => {
  const shown = table([
    candidate('a', { idleSince: 20_000 }),
    candidate('b', { triedBefore: true, phone: 'outside' }),
    candidate('c', { reasons: [{ code: 'signedOut' }] as never }),
  ]);
  const [chosen, tried, skipped] = rows(shown);
  expect(chosen!.slice(-2)).toEqual(['Answered', 'Idle 1:20, the longest']);
  expect(tried![2]).toBe('Tried before');
  expect(tried![0]).toContain('outside number');
  expect(skipped!.slice(-2)).toEqual(['Skipped', 'Signed out']);
  expect(shown.text()).toContain('Ann is offered the call');
  expect(shown.text()).toContain('1:10');
});

test('places in line are counted as one says them', () => {
  const many = Array.from({ length: 23 }, (_, i) => candidate(`p${i}`));
  const places = rows(table(many, { names: {} })).map((cells) => cells[2]);
  expect([
    places[0],
    places[1],
    places[2],
    places[3],
    places[10],
    places[11],
    places[20],
    places[21],
  ]).toEqual([
    '1st in line',
    '2nd in line',
    '3rd in line',
    '4th in line',
    '11th in line',
    '12th in line',
    '21st in line',
    '22nd in line',
  ]);
});

test.each([
  ['onlyOne', 'Idle 1:00, the only one free'],
  ['recordOwner', 'Looks after the record'],
  ['reservedForThis', 'Kept free for this call'],
] as const)('chosen because of %s it says so', (why, words) => {
  expect(rows(table([candidate('a')], { why }))[0]!.at(-1)).toBe(words);
});

test('a decision of another way says its rule, what it compared, and who rings too', () => {
  const shown = table(
    [
      candidate('a', { turn: 2, levels: [5], answeredToday: 3 }),
      candidate('b', { turn: 2, levels: [4] }),
      candidate('c', { turn: 3, levels: [5], idleSince: 0 }),
    ],
    { distribution: 'bestSkill', why: 'bestSkill', skills: ['Refunds'], inTurns: true },
  );
  expect(shown.text()).toContain('by turns, best skill first');
  expect(rows(shown).map((cells) => cells.at(-1))).toEqual([
    'Turn 2, Refunds 5, idle 1:00',
    'Turn 2, Refunds 4, idle 1:00',
    'Turn 3, Refunds 5',
  ]);
  const together = ['a', 'b'].map((personId) => ({ personId, name: personId }));
  const all = table([candidate('a'), candidate('b'), candidate('c')], {
    ...{ distribution: 'allAtOnce', why: 'allAtOnce', together },
  });
  expect(all.text()).toContain('2 are offered the call at once');
  expect(rows(all).map((cells) => cells[2])).toEqual(['Answered', 'Taken by Ann', '3rd in line']);
});

test('where nobody was free it says so, and which rule would have held', () => {
  const shown = table([candidate('c', { reasons: [{ code: 'signedOut' }] as never })], {
    ...{ chosen: null, chosenName: null, owner: { personId: 'o', name: 'Olive' } },
  });
  expect(shown.text()).toContain('Nobody free in Bookings');
  expect(shown.text()).toContain("the record's owner first, then longest idle");
});
