import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { RingGroupItem } from '../../model/ring-group.ts';
import type { ServiceCodeItem } from '../../model/configuration.ts';
import { type RingTarget } from '../../model/ring.ts';
import { roundRobin, strongerMiss, turnFrom } from '../../plan/ring.ts';
import { ropeSteps } from '../../story/describe.ts';
import {
  anythingGoes,
  Bench,
  configuration,
  person,
  queue,
  ringGroup,
  unroutedNumber,
} from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import type { Call } from '../calls/call.ts';
import { brokenInvariants } from '../snapshot.ts';
import { phoneLinesOf } from '../offers/phone-lines.ts';
import { groupsOf, reachOf } from './members.ts';

const to = (id: string, seconds = 10): RingTarget => ({ kind: 'person', id, seconds });
const team: RingTarget = { kind: 'team', id: 't', seconds: 10 };
const porter: RingTarget = { kind: 'outside', id: 'o', seconds: 6 };
const box = (id: string) => ({ kind: 'voicemail' as const, id: `${id}.box` });
const sitsOut: ServiceCodeItem = {
  ...{
    id: 'code',
    name: 'Sit out',
    digits: '*55',
    does: 'takePart',
    hoursIds: [],
    forHours: 1,
    groupIds: [],
  },
  ...{ pinHash: null, pinLength: 0, teamIds: [] },
};

/** Persons a, b and c are registered, b and c of team t; the group g has the extension 4300. */
function bench(change: Partial<RingGroupItem>, codes: ServiceCodeItem[] = []): Bench {
  const base = configuration(
    [person('a', { extension: '2001' }), person('b', { teamId: 't' }), person('c', { teamId: 't' })],
    [queue('q', ['a'])],
  );
  const day = new Bench({
    ...base,
    ...{ rules: [anythingGoes], codes },
    ringGroups: [ringGroup('g', { extension: '4300', whenUnanswered: box('a'), ...change })],
    outsideNumbers: [
      { id: 'o', name: 'Porter', extension: null, e164: '+14255550123', trunkId: null, ringSeconds: 30 },
    ],
  });
  day.register(0, 'a', 'b', 'c');
  return day;
}
const rings = (day: Bench, at: number) => day.call(at, '4300');
const callIn = (day: Bench, id: string) => day.exchange.view().calls.get(id) as Call;
const legOfPerson = (day: Bench, personId: string) =>
  day.effectsOf('ring').findLast((ring) => ring.personId === personId)!.leg;
const whereTo = (day: Bench) => day.recordsOf('sentTo').map(({ name }) => name);

describe('who rings', () => {
  test('all at once: everybody of it, teams by their people; whoever lifts first has the call', () => {
    const day = bench({ targets: [to('a'), team] });
    rings(day, 1);
    expect(day.rung().sort()).toEqual(['a', 'b', 'c']);
    expect(whereTo(day)).toEqual(['Porters g']);
    day.at(3, { kind: 'legAnswered', leg: legOfPerson(day, 'c') });
    expect(callIn(day, 'c1').talkingAgent?.person.id).toBe('c');
    expect(day.exchange.view().ringGroups.get('g')!.lastAnswered).toBe('c');
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('in turn a team rings together; round robin rings one by one, and the next call begins behind who answered', () => {
    const together = bench({ targets: [team, to('a')], order: 'inTurn' });
    rings(together, 1);
    expect(together.rung()).toEqual(['b', 'c']);

    const day = bench({ targets: [to('a'), team], order: 'roundRobin', rounds: 2 });
    rings(day, 1);
    day.at(12, { kind: 'clock' });
    expect(day.rung()).toEqual(['a', 'b']);
    day.at(13, { kind: 'legAnswered', leg: legOfPerson(day, 'b') });
    day.at(20, { kind: 'callerHungUp', callId: 'c1' });
    rings(day, 30);
    expect(day.rung()).toEqual(['a', 'b', 'c']);
    day.at(41, { kind: 'clock' });
    day.at(52, { kind: 'clock' });
    const told = (id: string) =>
      ropeSteps(day.records.filter(({ callId }) => callId === id)).find(({ title }) =>
        title.startsWith('Rang'),
      );
    expect(told('c1')).toMatchObject({ title: 'Rang Person a', reason: 'For 10 s, round 1 of 2' });
    expect(told('c2')).toMatchObject({
      ...{ title: 'Rang Person c', reason: 'For 10 s, round 1 of 2, Person b answered last' },
    });
    // Nobody answered: this call goes round in its own order, and moves nothing for the next.
    expect(day.rung()).toEqual(['a', 'b', 'c', 'a', 'b']);
    expect(day.exchange.view().ringGroups.get('g')!.lastAnswered).toBe('b');
  });

  test('of a large team as many ring together as may, the first by name, and the story says how many more', () => {
    const crew = Array.from({ length: 70 }, (_, i) =>
      person(`m${String(i).padStart(2, '0')}`, { teamId: 't' }),
    );
    const base = configuration(crew, [queue('q', ['m00'])]);
    const day = new Bench({ ...base, ringGroups: [ringGroup('g', { extension: '4300', targets: [team] })] });
    day.register(0, ...crew.map(({ id }) => id));
    rings(day, 1);
    expect(day.rung()).toHaveLength(50);
    expect(day.rung()[49]).toBe('m49');
    expect(ropeSteps(day.records).find(({ title }) => title.startsWith('Rang'))!.slack).toEqual([
      '20 more: 50 ring together',
    ]);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('goes on where it was after a restart, with who sits out and who answered last', () => {
    const day = bench({ targets: [to('a'), team], order: 'roundRobin' });
    day.at(0, { kind: 'groupPresence', groupId: 'g', personId: 'b', takesPart: false });
    rings(day, 1);
    const again = Exchange.restore(JSON.parse(JSON.stringify(day.exchange.snapshot())));
    const { effects } = again.handle({ seq: again.seq + 1, at: 12_000, kind: 'clock' });
    expect(effects.filter(({ kind }) => kind === 'ring')).toMatchObject([{ personId: 'c' }]);
    expect(again.snapshot().slices.groups.data).toMatchObject([{ sitOut: ['b'], lastAnswered: null }]);
  });

  test('a call is of the group whose phones rang last for it, also where none of ours did; never of one that rang nobody', () => {
    const day = bench({ targets: [to('a')] });
    rings(day, 1);
    day.at(2, { kind: 'callerHungUp', callId: 'c1' });
    const outside = bench({ targets: [porter] });
    rings(outside, 1);
    outside.at(2, { kind: 'callerHungUp', callId: 'c1' });
    const nobody = bench({ targets: [to('a')] });
    nobody.at(0, { kind: 'groupPresence', groupId: 'g', personId: 'a', takesPart: false });
    rings(nobody, 1);
    nobody.at(2, { kind: 'callerHungUp', callId: 'c1' });
    const groupOfCall = (of: Bench) => of.effectsOf('callEnded').map(({ facts }) => facts.ringGroupId);
    expect([day, outside, nobody].map(groupOfCall)).toEqual([['g'], ['g'], [null]]);
  });

  test('a number outside rings alone and last; who answers there is whom the next call goes round from', () => {
    const day = bench({ targets: [porter, to('a', 5)] });
    rings(day, 1);
    expect(day.rung()).toEqual(['a']);
    day.at(7, { kind: 'clock' });
    const [dial] = day.effectsOf('dial');
    expect(dial).toMatchObject({ party: 'outside', ringSeconds: 6 });
    day.at(9, { kind: 'legAnswered', leg: dial!.leg });
    expect(callIn(day, 'c1').activity.kind).toBe('bridgedOutside');
    expect(day.exchange.view().ringGroups.get('g')!.lastAnswered).toBe('o');
  });
});

describe('ways out', () => {
  const ways = { whenBusy: box('b'), whenUnanswered: box('a'), whenOutage: box('c') };
  const left = (day: Bench) => day.effectsOf('record').map(({ boxId }) => boxId);

  test('phones rang and nobody lifted', () => {
    const day = bench({ targets: [to('a')], rounds: 2, ...ways });
    rings(day, 1);
    day.at(12, { kind: 'clock' });
    expect(left(day)).toEqual([]);
    day.at(22, { kind: 'clock' });
    expect(left(day)).toEqual(['a.box']);
    expect(day.recordsOf('groupNotTaken')).toMatchObject([{ name: 'Porters g', way: 'notTaken' }]);
  });

  test('all are busy: on a call, or rung for one; the story names them', () => {
    const day = bench({ targets: [to('a'), to('b')], ...ways });
    day.call(1, '2001');
    day.at(2, { kind: 'legAnswered', leg: legOfPerson(day, 'a') });
    day.at(2, { kind: 'phoneUnregistered', phoneId: 'b.phone', why: 'gone' });
    rings(day, 3);
    expect(left(day)).toEqual(['b.box']);
    const story = ropeSteps(day.records.filter(({ callId }) => callId === 'c2'));
    const step = story.find(({ title }) => title === 'All of them were busy')!;
    expect(step.slack).toMatchObject(['Person a: Talking for 0:01', 'Person b: Phone unregistered']);
  });

  test('a phone that says busy is as busy as one that is on a call', () => {
    const day = bench({ targets: [to('a'), porter], order: 'inTurn', ...ways });
    rings(day, 1);
    day.at(1, { kind: 'legFailed', leg: legOfPerson(day, 'a'), cause: 'busy' });
    day.at(2, { kind: 'legFailed', leg: day.effectsOf('dial')[0]!.leg, cause: 'busy' });
    expect(left(day)).toEqual(['b.box']);
  });

  test('no phone is registered, and the line outside is down', () => {
    const day = bench({ targets: [to('a'), porter], ...ways });
    day.at(0, { kind: 'phoneUnregistered', phoneId: 'a.phone', why: 'gone' });
    rings(day, 1);
    day.at(2, { kind: 'legFailed', leg: day.effectsOf('dial')[0]!.leg, cause: 'congestion' });
    expect(left(day)).toEqual(['c.box']);
  });

  test('who could not be rung before a number outside is named, though it lifts', () => {
    const day = bench({ targets: [to('a'), to('b'), porter], order: 'inTurn', ...ways });
    for (const id of ['a', 'b'])
      day.at(0, { kind: 'phoneUnregistered', phoneId: `${id}.phone`, why: 'gone' });
    rings(day, 1);
    day.at(3, { kind: 'legAnswered', leg: day.effectsOf('dial')[0]!.leg });
    expect(day.recordsOf('ringsSeveral')).toMatchObject([
      { rung: [], not: [{ name: 'Person a' }, { name: 'Person b' }] },
    ]);
  });

  test('who rang decides, whatever the others did; a way left empty is that of nobody lifting', () => {
    const mixed = bench({ targets: [to('a'), to('b')], ...ways });
    rings(mixed, 1);
    mixed.at(2, { kind: 'legFailed', leg: legOfPerson(mixed, 'a'), cause: 'busy' });
    mixed.at(12, { kind: 'clock' });
    expect(left(mixed)).toEqual(['a.box']);
    const empty = bench({ targets: [], ...ways, whenBusy: null, whenOutage: null });
    rings(empty, 1);
    expect(left(empty)).toEqual(['a.box']);
    const busy = bench({ targets: [to('a')], ...ways, whenBusy: null });
    busy.call(1, '2001');
    rings(busy, 2);
    expect(left(busy)).toEqual(['a.box']);
  });

  test('a plan that names the way is followed; else the group’s own', () => {
    const day = bench({ targets: [to('a')], ...ways });
    const numbers = [...day.exchange.view().numbers.values()].map((number) => ({
      ...number,
      plan: {
        ...{ id: 'own', version: 1, start: 's1', fallback: { kind: 'end' as const } },
        steps: {
          s1: { kind: 'ringGroup' as const, config: { groupId: 'g' }, exits: { busy: 's2' } },
          s2: { kind: 'voicemail' as const, config: { boxId: 'c.box' }, exits: {} },
        },
      },
    }));
    day.at(0, { kind: 'configurationChanged', changes: { numbers } });
    day.call(1, '2001');
    day.call(2, unroutedNumber);
    expect(left(day)).toEqual(['c.box']);
    day.at(3, { kind: 'callerHungUp', callId: 'c1' });
    day.at(3, { kind: 'phoneUnregistered', phoneId: 'a.phone', why: 'gone' });
    day.call(4, unroutedNumber);
    expect(left(day)).toEqual(['c.box', 'c.box']);
    expect(whereTo(day).at(-1)).toContain('c');
  });

  test('a group that is taken out while it rings: the caller is told, and nothing breaks', () => {
    const day = bench({ targets: [to('a')] });
    rings(day, 1);
    day.at(2, { kind: 'configurationChanged', changes: { gone: ['g'] } });
    day.at(20, { kind: 'clock' });
    expect(day.ended()).toMatchObject([{ result: 'unroutable' }]);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });
});

describe('who takes part', () => {
  const presence = (personId: string, takesPart: boolean, groupId = 'g') =>
    ({ kind: 'groupPresence', groupId, personId, takesPart }) as const;

  test('members sit out, by themselves or by their team, and come back; the story says so', () => {
    const day = bench({ targets: [to('a'), team] });
    day.at(0, presence('b', false));
    rings(day, 1);
    expect(day.rung().sort()).toEqual(['a', 'c']);
    expect(day.recordsOf('ringsSeveral')).toMatchObject([{ not: [{ name: 'Person b', sitsOut: true }] }]);
    expect(ropeSteps(day.records).find(({ title }) => title.startsWith('Rang'))!.slack).toEqual([
      'Person b sits out',
    ]);
    day.at(2, presence('b', true));
    day.at(3, { kind: 'callerHungUp', callId: 'c1' });
    rings(day, 4);
    expect(day.rung().slice(2).sort()).toEqual(['a', 'b', 'c']);
  });

  test('what of a group could ring one day, and whether all of it sit out, is what readiness looks at', () => {
    const reach = (change: Partial<RingGroupItem>, out: string[] = []) => {
      const day = bench(change);
      for (const id of out) day.at(0, presence(id, false));
      return reachOf(day.exchange.view(), day.exchange.view().ringGroups.get('g')!);
    };
    expect(reach({ targets: [team, to('b'), porter] })).toEqual({ phones: 3, allSitOut: false });
    expect(reach({ targets: [team] }, ['b'])).toEqual({ phones: 2, allSitOut: false });
    expect(reach({ targets: [team] }, ['b', 'c'])).toEqual({ phones: 2, allSitOut: true });
    expect(reach({ targets: [team, porter] }, ['b', 'c'])).toEqual({ phones: 3, allSitOut: false });
    expect(reach({ targets: [to('gone'), { kind: 'team', id: 'none', seconds: 5 }] }).phones).toBe(0);
  });

  test('nobody but members, of groups that are there', () => {
    const day = bench({ targets: [team] });
    expect(day.at(0, presence('a', false)).refusal).toBe('notAMember');
    expect(day.at(0, presence('b', false, 'x')).refusal).toBe('unknownRingGroup');
    expect(day.at(0, { kind: 'groupPresence', groupId: 'g' } as never).refusal).toBe('malformed');
  });

  test('who is a member no more is forgotten as one who sits out', () => {
    const day = bench({ targets: [to('a'), team] });
    day.at(0, presence('a', false));
    const other = ringGroup('g', { targets: [team] });
    day.at(1, { kind: 'configurationChanged', changes: { ringGroups: [other] } });
    day.at(2, { kind: 'configurationChanged', changes: { ringGroups: [{ ...other, targets: [to('a')] }] } });
    expect(groupsOf(day.exchange.view(), 'a')).toMatchObject([{ sitOut: [] }]);
  });

  test('by a code, which does the one and the other, and says what it did', () => {
    const day = bench({ targets: [team] }, [sitsOut]);
    const dials = (at: number, id: string, from: string) => {
      day.at(at, {
        ...{ kind: 'callArrived', callId: id, to: '*55', from: '', fromPhoneId: `${from}.phone` },
      });
      day.at(at + 9, { kind: 'clock' });
    };
    dials(1, 'x', 'b');
    expect(day.exchange.view().ringGroups.get('g')!.sitOut).toEqual(['b']);
    dials(20, 'y', 'b');
    expect(day.exchange.view().ringGroups.get('g')!.sitOut).toEqual([]);
    dials(40, 'z', 'a');
    expect(day.effectsOf('say').map(({ words }) => words)).toEqual([
      'You sit out of Porters g.',
      'You take part in Porters g again.',
      'You are a member of no ring group here.',
    ]);
    expect(day.recordsOf('tookPart').map(({ takesPart }) => takesPart)).toEqual([false, true]);
    expect(day.effectsOf('callEnded')).toHaveLength(3);
  });
});

test('phones show what the group says: itself and the caller, the caller, or the number dialled', () => {
  const shown = (shows: RingGroupItem['shows'], called: string) => {
    const day = bench({ targets: [to('a')], shows });
    const [number] = [...day.exchange.view().numbers.values()];
    const plan = {
      ...{ id: 'own', version: 1, start: 's1', fallback: { kind: 'end' as const } },
      steps: { s1: { kind: 'ringGroup' as const, config: { groupId: 'g' }, exits: {} } },
    };
    day.at(0, { kind: 'configurationChanged', changes: { numbers: [{ ...number!, label: 'Quay', plan }] } });
    day.call(1, called === 'number' ? number!.e164 : called);
    return phoneLinesOf(day.exchange.view(), callIn(day, 'c1'));
  };
  expect(shown('groupAndCaller', 'number')).toEqual(['Porters g', expect.stringContaining('360')]);
  expect(shown('caller', 'number')).toHaveLength(1);
  expect(shown('numberDialled', 'number')).toEqual(['Quay']);
  expect(shown('numberDialled', '4300')).toEqual(['4300']);
});

describe('turns', () => {
  const target = fc.record({
    kind: fc.constantFrom('person' as const, 'team' as const, 'outside' as const),
    id: fc.constantFrom('p1', 'p2', 't1', 't2', 'o1'),
    seconds: fc.integer({ min: 3, max: 120 }),
  });
  const teams: Record<string, string[]> = { t1: ['p1', 'p3', 'p4'], t2: ['p4', 'p5'] };

  test('of round robin hold everybody once, in the order of the list, from behind whoever answered last', () => {
    fc.assert(
      fc.property(
        fc.array(target, { maxLength: 6 }),
        fc.option(fc.constantFrom('p1', 'p4', 'o1')),
        (all, last) => {
          const peopleOf = (id: string) => teams[id] ?? [];
          const ids = roundRobin(all, peopleOf, last).map(({ id }) => id);
          const list = [...new Set(all.flatMap(({ kind, id }) => (kind === 'team' ? peopleOf(id) : [id])))];
          expect([...ids].sort()).toEqual([...list].sort());
          const at = list.indexOf(last ?? '');
          expect(ids).toEqual([...list.slice(at + 1), ...list.slice(0, at + 1)]);
        },
      ),
    );
  });

  test('go round as often as is set, and no further', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 1, max: 5 }), (length, rounds) => {
        const turns = Array.from({ length }, (_, i) => i);
        const passed: number[] = [];
        for (let now = turnFrom(turns, rounds, { turn: 0, round: 1 }); now !== null;) {
          passed.push(now.of);
          now = turnFrom(turns, rounds, { ...now, turn: now.turn + 1 });
        }
        expect(passed).toEqual(Array.from({ length: rounds }, () => turns).flat());
      }),
    );
  });

  test('come to what a caller would say: it rang before it was busy before nobody could be reached', () => {
    const all = [null, 'outage', 'busy', 'rang'] as const;
    for (const one of all)
      for (const other of all)
        expect(strongerMiss(one, other)).toBe(all[Math.max(all.indexOf(one), all.indexOf(other))]);
  });
});
