import { describe, expect, test } from 'vitest';
import type { DiallingRule } from '../../dialling/rules.ts';
import type { Configuration, TrunkItem } from '../../model/configuration.ts';
import { Bench, callerNumber, configuration, mainNumber, person, queue, trunk } from '../exchange.testing.ts';
import { brokenInvariants } from '../snapshot.ts';

const help = '911';
const abroad = '+442079460123';

function rule(
  id: string,
  pattern: string,
  trunkIds: string[],
  change: Partial<DiallingRule> = {},
): DiallingRule {
  return { id, name: id, pattern, strip: 0, prepend: '', trunkIds, use: 'everybody', teamIds: [], ...change };
}
const line = (id: string, channels = 5): TrunkItem => ({ ...trunk(channels), id, name: `Trunk ${id}` });

function set(change: Partial<Configuration> = {}): Configuration {
  const base = configuration([person('a', { extension: '2001' })], [queue('q', ['a'])]);
  return {
    ...base,
    phones: base.phones.map((phone) => ({ ...phone, callerId: mainNumber, emergencyAddress: '1 Quay' })),
    trunks: [line('t1', 1), line('t2')],
    outsideNumbers: [
      { id: 'o', name: 'Night desk', extension: '4001', e164: abroad, trunkId: null, ringSeconds: 20 },
    ],
    rules: [rule('abroad', '+[2-9]x.', ['t1', 't2']), rule('home', 'NxxNxxxxxx', ['t2'], { prepend: '+1' })],
    ...change,
  };
}
const dialledBy = (day: Bench, at: number, to: string, callId = 'd1') =>
  day.at(at, { kind: 'callArrived', callId, to, from: '2001', fromPhoneId: 'a.phone' });
const leg = (day: Bench) => day.effectsOf('dial').at(-1)!.leg;

describe('a call sent on to an outside number', () => {
  test('is dialled by the rules, answered, and ends as forwarded', () => {
    const day = new Bench(set());
    day.call(1, '4001');
    expect(day.effectsOf('dial')).toMatchObject([{ trunkId: 't1', digits: abroad, party: 'outside' }]);
    day.at(5, { kind: 'legAnswered', leg: leg(day) });
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
    day.at(65, { kind: 'legEnded', leg: leg(day) });
    expect(day.ended()).toMatchObject([
      {
        ...{ result: 'forwarded', endedBy: 'contact', talkedMs: 60_000, waitedMs: 4_000, personId: null },
        usages: [{ trunkId: 't1', digits: abroad, seconds: 60 }],
      },
    ]);
    expect(day.exchange.view().trunks.get('t1')!.inUse).toBe(0);
  });

  test('goes over the next trunk when the first is full or fails, and says so', () => {
    const day = new Bench(set());
    day.call(1, '4001');
    day.call(2, '4001');
    expect(day.effectsOf('dial').map((effect) => effect.trunkId)).toEqual(['t1', 't2']);
    day.at(3, { kind: 'legFailed', leg: 'c1.2', cause: 'congestion' });
    expect(day.effectsOf('dial').map((effect) => effect.trunkId)).toEqual(['t1', 't2', 't2']);
    expect(day.recordsOf('trunkFailed')).toMatchObject([
      { callId: 'c2', trunkName: 'Trunk t1', cause: 'congestion' },
      { callId: 'c1', trunkName: 'Trunk t1', cause: 'congestion' },
    ]);
  });

  test('is not tried elsewhere when the other side is busy or does not lift: the caller is told', () => {
    const day = new Bench(set());
    day.call(1, '4001');
    day.at(2, { kind: 'legFailed', leg: leg(day), cause: 'busy' });
    day.call(3, '4001');
    day.at(23, { kind: 'clock' });
    expect(day.ended()).toMatchObject([{ result: 'turnedAway' }, { result: 'turnedAway' }]);
    expect(day.effectsOf('dial')).toHaveLength(2);
    expect(day.effectsOf('stopRinging')).toMatchObject([{ why: 'noAnswer' }]);
  });

  test('a caller who gives up frees the line', () => {
    const day = new Bench(set());
    day.call(1, '4001');
    day.at(4, { kind: 'callerHungUp', callId: 'c1' });
    expect(day.ended()).toMatchObject([{ result: 'abandoned' }]);
    expect(day.exchange.view().trunks.get('t1')!.inUse).toBe(0);
  });
});

describe('somebody of ours dials', () => {
  test('by the rules, with the caller ID of their phone, and is busy meanwhile', () => {
    const day = new Bench(set());
    day.register(0, 'a');
    dialledBy(day, 1, '2065550170');
    expect(day.effectsOf('dial')).toMatchObject([
      { trunkId: 't2', digits: '+12065550170', callerId: mainNumber },
    ]);
    day.call(2);
    expect(day.rung()).toEqual([]);
    day.at(3, { kind: 'legAnswered', leg: leg(day) });
    day.at(33, { kind: 'callerHungUp', callId: 'd1' });
    expect(day.ended()).toMatchObject([
      { direction: 'dialled', result: 'answered', personId: 'a', talkedMs: 30_000 },
    ]);
    expect(day.rung()).toEqual(['a']);
  });

  test('over the trunk that their phone names; what may be dialled, and help, are the rules’ affair', () => {
    const base = set();
    const phones = base.phones.map((phone) => ({ ...phone, dialTrunkId: 't1' }));
    const day = new Bench(set({ phones }));
    day.register(0, 'a');
    dialledBy(day, 1, '2065550170');
    expect(day.effectsOf('dial')).toMatchObject([{ trunkId: 't1', digits: '+12065550170' }]);
    day.at(2, { kind: 'legFailed', leg: leg(day), cause: 'congestion' });
    expect(day.ended()).toMatchObject([{ result: 'congestion' }]);
    dialledBy(day, 3, '5550170', 'd2');
    expect(day.recordsOf('noRoute')).toMatchObject([{ callId: 'd2', why: 'noMatch' }]);
    day.at(4, { kind: 'configurationChanged', changes: { trunks: [line('t1', 0)] } });
    dialledBy(day, 5, help, 'd3');
    expect(day.effectsOf('dial').at(-1)).toMatchObject({ trunkId: 't2', digits: help });
  });

  test('what no rule matches goes nowhere, and the story says so', () => {
    const day = new Bench(set());
    day.register(0, 'a');
    dialledBy(day, 1, '5550170');
    expect(day.ended()).toMatchObject([{ result: 'noRoute', personId: 'a' }]);
    expect(day.recordsOf('noRoute')).toMatchObject([{ why: 'noMatch' }]);
  });

  test('one talk at a time', () => {
    const day = new Bench(set());
    day.register(0, 'a');
    dialledBy(day, 1, '2065550170');
    expect(dialledBy(day, 2, '2065550171', 'd2').refusal).toBe('atLimit');
  });

  test('a colleague is reached inside the house', () => {
    const day = new Bench(set());
    day.register(0, 'a');
    dialledBy(day, 1, '4001');
    expect(day.exchange.view().calls.get('d1')).toMatchObject({ direction: 'inbound' });
  });
});

describe('a call for help', () => {
  test('goes out as dialled, with the address, whatever the rules say', () => {
    const careless = rule('nine', '9x.', [], { strip: 1, prepend: '0', use: 'campaigns' });
    const day = new Bench(set({ rules: [careless] }));
    day.register(0, 'a');
    dialledBy(day, 1, help);
    expect(day.effectsOf('emergency')).toMatchObject([
      { personId: 'a', phoneId: 'a.phone', digits: help, address: '1 Quay' },
    ]);
    expect(day.effectsOf('dial')).toMatchObject([{ digits: help }]);
  });

  test('goes out from a phone in a call, by somebody signed out, and over a full line', () => {
    const day = new Bench(set({ trunks: [line('t1', 1)] }));
    dialledBy(day, 1, abroad);
    day.at(2, { kind: 'legAnswered', leg: leg(day) });
    dialledBy(day, 3, help, 'd2');
    expect(day.effectsOf('dial').map((effect) => effect.digits)).toEqual([abroad, help]);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('tries every line when one fails', () => {
    const day = new Bench(set());
    dialledBy(day, 1, help);
    day.at(2, { kind: 'legFailed', leg: leg(day), cause: 'refused' });
    expect(day.effectsOf('dial').map((effect) => effect.trunkId)).toEqual(['t1', 't2']);
  });
});

test('a call on its way out survives a restart at any point', () => {
  const day = new Bench(set());
  day.call(1, '4001');
  const copy = day.exchange.fork();
  copy.handle({ seq: copy.seq + 1, at: 2_000, kind: 'legFailed', leg: 'c1.2', cause: 'unreachable' });
  expect(copy.view().calls.get('c1')!.activity).toMatchObject({ attempt: { trunkIds: [] } });
  expect(callerNumber).toBe(copy.view().calls.get('c1')!.from);
});
