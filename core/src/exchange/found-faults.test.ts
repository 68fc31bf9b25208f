import { describe, expect, test } from 'vitest';
import { Exchange } from './exchange.ts';
import { brokenInvariants } from './snapshot.ts';
import {
  anythingGoes,
  Bench,
  callerNumber,
  campaign,
  configuration,
  outsideNumber,
  person,
  queue,
  trunk,
} from './exchange.testing.ts';

const sound = (bench: Bench) => expect(brokenInvariants(bench.exchange.view())).toEqual([]);
const agent = (bench: Bench, id: string) => bench.exchange.view().agents.get(id)!;

describe('a pick-up that is not lifted', () => {
  const three = configuration([person('a'), person('b'), person('c')], [queue('q', ['a'])]);

  test('is held against nobody: no rest, no misses, and who is signed out stays so', () => {
    const bench = new Bench({ ...three, settings: { ...three.settings, seats: 2 } });
    bench.register(0, 'a', 'b');
    bench.at(1, { kind: 'agentSignedOut', personId: 'b' });
    for (const at of [10, 100, 200]) {
      const call = bench.call(at);
      bench.at(at + 1, { kind: 'callPickedUp', callId: call, phoneId: 'b.phone' });
      expect(bench.rung().at(-1)).toBe('b');
      // Nobody lifts; ten seconds later it is the colleague's again, then over.
      bench.at(at + 12, { kind: 'clock' });
      bench.at(at + 13, { kind: 'callerHungUp', callId: call });
      expect(agent(bench, 'b')).toMatchObject({ presence: 'signedOut', misses: 0, backOffUntil: 0 });
    }
    expect(bench.exchange.view().signedIn).toBe(1);
    expect(bench.exchange.view().queues.get('q')!.signedIn).toBe(1);
    sound(bench);
    // The second seat is still to be had.
    bench.register(300, 'c');
    expect(agent(bench, 'c').presence).toBe('available');
  });

  test('counts against somebody who is on duty neither', () => {
    const bench = new Bench(configuration([person('a'), person('b')], [queue('q', ['a'])]));
    bench.register(0, 'a', 'b');
    const call = bench.call(5);
    bench.at(6, { kind: 'callPickedUp', callId: call, phoneId: 'b.phone' });
    bench.at(17, { kind: 'clock' });
    expect(agent(bench, 'b')).toMatchObject({ misses: 0, backOffUntil: 0 });
    expect(bench.exchange.view().calls.get(call)).toBeDefined();
  });
});

describe('a talk handed over to where the call ends at once', () => {
  test.each([
    ['the end', { kind: 'end' } as const],
    ['a colleague with no phone and no voicemail', { kind: 'person', id: 'b' } as const],
  ])('%s is counted once', (_what, to) => {
    const set = configuration([person('a'), person('b', { voicemailBoxId: null })], [queue('q', ['a'])]);
    const bench = new Bench(set);
    bench.register(0, 'a');
    const call = bench.call(5);
    bench.at(10, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(70, { kind: 'callTransferred', leg: bench.lastLeg(), to });
    expect(bench.ended()).toMatchObject([{ callId: call, talkedMs: 60_000, personId: 'a' }]);
    sound(bench);
  });
});

test('the same contact handed out twice is called once, whether it waits, rings or talks', () => {
  const bench = new Bench({
    ...configuration([person('a')], [queue('q', ['a'])]),
    trunks: [trunk(5)],
    campaigns: [campaign('x', 'q', { ratio: 1 })],
  });
  bench.register(0, 'a');
  bench.lease(1, 2);
  expect(bench.dialled()).toEqual(['k1']);
  // The one that rings and the one that waits, again.
  bench.lease(2, 2);
  bench.at(3, { kind: 'legFailed', leg: 'k1-call.1', cause: 'busy' });
  bench.at(5, { kind: 'legFailed', leg: 'k2-call.1', cause: 'busy' });
  bench.at(6, { kind: 'clock' });
  expect(bench.dialled()).toEqual(['k1', 'k2']);
  expect(bench.ended().map((facts) => facts.callId)).toEqual(['k1-call', 'k2-call']);
});

describe('what is restored is what was', () => {
  /** The state as it is, and as it is after a restart. */
  const restored = (bench: Bench) => {
    const snapshot = bench.exchange.snapshot();
    return [
      bench.exchange,
      Exchange.restore(JSON.parse(JSON.stringify(snapshot)) as typeof snapshot),
    ] as const;
  };
  const view = (exchange: Exchange) => {
    const { agents, trunks, queues, calls } = exchange.view();
    return {
      agents: [...agents].map(([id, each]) => [
        id,
        each.reservedFor?.id ?? null,
        each.phones.map((phone) => phone.item.id),
      ]),
      trunks: [...trunks].map(([id, each]) => [id, [...each.agents].map((who) => who.person.id).sort()]),
      queues: [...queues].map(([id, each]) => [id, each.inAir, each.reservations, each.idleAutoAnswering]),
      reserved: [...calls].map(([id, call]) => [id, call.reservedAgent?.person.id ?? null]),
    };
  };

  test('of somebody removed who was reserved for a contact whose phone rings', () => {
    const set = {
      ...configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]),
      trunks: [trunk(5)],
      campaigns: [campaign('x', 'q', { abandonLimit: 0, ratio: 1 })],
    };
    const bench = new Bench(set);
    bench.register(0, 'a', 'b');
    bench.lease(1, 2);
    expect(agent(bench, 'a').reservedFor).not.toBeNull();
    bench.at(2, { kind: 'configurationChanged', changes: { gone: ['a'] } });
    const [live, again] = restored(bench);
    expect(view(again)).toEqual(view(live));
    expect(
      [...live.view().calls.values()].map((call) => call.reservedAgent?.person.id ?? null),
    ).not.toContain('a');
    sound(bench);
    bench.lifts(3, 'k1');
    sound(bench);
  });

  test('of somebody removed during a call, who had an outside number', () => {
    const set = {
      ...configuration([person('a'), person('d')], [queue('q', ['a', 'd'])]),
      phones: [...configuration([person('a')], []).phones, outsideNumber('d')],
      trunks: [trunk(5)],
    };
    const bench = new Bench(set);
    bench.at(0, { kind: 'agentSignedIn', personId: 'd' });
    bench.call(1);
    const { leg } = bench.effectsOf('dial').at(-1)!;
    bench.at(2, { kind: 'legAnswered', leg });
    bench.at(3, { kind: 'keyPressed', leg, key: '1' });
    bench.at(4, { kind: 'configurationChanged', changes: { gone: ['d'] } });
    let [live, again] = restored(bench);
    expect(view(again)).toEqual(view(live));
    bench.at(5, { kind: 'legEnded', leg });
    [live, again] = restored(bench);
    expect(view(again)).toEqual(view(live));
    sound(bench);
  });

  test('of a phone that changes its person', () => {
    const set = configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]);
    const bench = new Bench(set);
    bench.register(0, 'a', 'b');
    const phone = { ...set.phones.find((each) => each.id === 'a.phone')!, personId: 'b' };
    bench.at(1, { kind: 'configurationChanged', changes: { phones: [phone] } });
    const [live, again] = restored(bench);
    expect(view(again)).toEqual(view(live));
    expect(agent(bench, 'a').phone.state).toBe('none');
    sound(bench);
  });
});

test('a call back in line in the instant an agent gets free waits behind who came first and who comes first', () => {
  const set = configuration(
    [person('a'), person('b')],
    [queue('low', ['a', 'b']), queue('high', ['a'], { priority: 5 })],
  );
  const bench = new Bench(set);
  bench.register(0, 'a');
  const talk = bench.call(1);
  bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
  bench.register(3, 'b');
  // c2 rings b, c3 waits for high, c4 for low.
  const ringing = bench.call(4);
  expect(bench.rung().at(-1)).toBe('b');
  const high = 'c-high';
  bench.at(5, { kind: 'callArrived', callId: high, to: set.numbers[1]!.e164, from: callerNumber });
  // At one instant b has not lifted, and a's wrap-up is over: high comes first.
  bench.at(9, { kind: 'legEnded', leg: `${talk}.2` });
  bench.at(19, { kind: 'clock' });
  expect(bench.rung().at(-1)).toBe('a');
  expect(bench.effectsOf('ring').at(-1)!.callId).toBe(high);
  expect(bench.exchange.view().calls.get(ringing)!.activity.kind).not.toBe('ended');
  sound(bench);
});

describe('who calls for help', () => {
  const set = {
    ...configuration([person('a')], [queue('q', ['a'])]),
    trunks: [trunk(5)],
    rules: [anythingGoes],
  };

  test('while on another call has that call held, and counts as in both', () => {
    const bench = new Bench(set);
    bench.register(0, 'a');
    const talk = bench.call(1);
    bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(5, { kind: 'callArrived', callId: 'help', to: '911', from: '', fromPhoneId: 'a.phone' });
    expect(agent(bench, 'a').calls.map((call) => call.id)).toEqual([talk, 'help']);
    expect(bench.effectsOf('hold').map((effect) => effect.leg)).toContain(`${talk}.2`);
    // Nobody rings them meanwhile.
    const before = bench.rung().length;
    bench.call(6);
    expect(bench.rung()).toHaveLength(before);
    sound(bench);
    bench.at(30, { kind: 'callerHungUp', callId: 'help' });
    expect(bench.effectsOf('resume').map((effect) => effect.leg)).toContain(`${talk}.2`);
    sound(bench);
  });

  test('while their phone rings for another call: that goes on to the next, and is held against nobody', () => {
    const bench = new Bench(set);
    bench.register(0, 'a');
    const call = bench.call(1);
    bench.at(2, { kind: 'callArrived', callId: 'help', to: '911', from: '', fromPhoneId: 'a.phone' });
    expect(bench.effectsOf('stopRinging')).toHaveLength(1);
    expect(agent(bench, 'a')).toMatchObject({ misses: 0, backOffUntil: 0, ringing: null });
    expect(bench.exchange.view().calls.get(call)!.activity.kind).toBe('waiting');
    sound(bench);
  });

  test('while kept for a campaign, and able to carry two: whoever waits for them is not forgotten', () => {
    const kept = {
      ...configuration([person('a', { callLimit: 2 })], [queue('q', ['a'])]),
      ...{ trunks: [trunk(5)], rules: [anythingGoes], campaigns: [campaign('x', 'q', { abandonLimit: 0 })] },
    };
    const bench = new Bench(kept);
    bench.register(0, 'a');
    bench.lease(1, 1);
    expect(agent(bench, 'a').reservedForCallId).toBe('k1-call');
    const waiting = bench.call(2);
    expect(bench.exchange.view().calls.get(waiting)!.activity.kind).toBe('waiting');
    bench.at(3, { kind: 'callArrived', callId: 'help', to: '911', from: '', fromPhoneId: 'a.phone' });
    expect(agent(bench, 'a').reservedForCallId).toBeNull();
    expect(bench.exchange.view().calls.get(waiting)!.activity.kind).toBe('offered');
    sound(bench);
  });
});

describe('at the same millisecond', () => {
  test('a hang-up sets an agent free before the longest wait of another caller overflows', () => {
    const set = configuration(
      [person('a')],
      [queue('q', ['a'], { wrapUpSeconds: 0, maxWaitSeconds: 20, whenTooLong: { kind: 'end' } })],
    );
    const bench = new Bench(set);
    bench.register(0, 'a');
    const talk = bench.call(1);
    bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
    const waiting = bench.call(5);
    bench.at(25, { kind: 'callerHungUp', callId: talk });
    expect(bench.exchange.view().calls.get(waiting)?.activity.kind).toBe('offered');
    sound(bench);
  });

  test('a caller who comes in then finds the one before sent on', () => {
    const set = configuration(
      [person('a')],
      [
        queue('q', ['a'], {
          maxWaitSeconds: 20,
          whenTooLong: { kind: 'end' },
          maxWaiting: 1,
          whenFull: { kind: 'end' },
        }),
      ],
    );
    const bench = new Bench(set);
    bench.register(0, 'a');
    bench.call(1);
    bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
    const first = bench.call(5);
    const second = bench.call(25);
    expect(bench.ended().map((facts) => facts.callId)).toEqual([first]);
    expect(bench.exchange.view().calls.get(second)?.activity.kind).toBe('waiting');
    sound(bench);
  });
});

describe('an event without a time', () => {
  test.each([Number.NaN, Number.POSITIVE_INFINITY, '5', undefined, null, 1.5])(
    '%s is refused, and nothing moves',
    (at) => {
      const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
      bench.register(1, 'a');
      const before = JSON.stringify(bench.exchange.snapshot());
      const event = { kind: 'clock', seq: bench.exchange.seq + 1, at } as never;
      expect(() => bench.exchange.handle(event)).toThrow(/time/);
      expect(JSON.stringify(bench.exchange.snapshot())).toBe(before);
      bench.call(5);
      expect(bench.rung()).toEqual(['a']);
    },
  );

  test('or out of turn does not take a number', () => {
    const exchange = new Exchange();
    expect(() => exchange.handle({ kind: 'clock', seq: 5, at: 0 })).toThrow(/without gaps/);
    expect(exchange.seq).toBe(0);
  });
});

test('somebody wholly free is rung before who talks already, though they may take two', () => {
  const set = configuration(
    [person('a', { callLimit: 2 }), person('b', { callLimit: 2 })],
    [queue('q', ['a', 'b'], { wrapUpSeconds: 0 })],
  );
  const bench = new Bench(set);
  bench.register(0, 'a');
  bench.register(1, 'b');
  bench.call(5);
  expect(bench.rung()).toEqual(['a']);
  bench.at(6, { kind: 'legAnswered', leg: bench.lastLeg() });
  bench.call(7);
  expect(bench.rung()).toEqual(['a', 'b']);
  bench.at(8, { kind: 'legAnswered', leg: bench.lastLeg() });
  // Both talk: the one idle longest before.
  bench.call(9);
  expect(bench.rung()).toEqual(['a', 'b', 'a']);
  sound(bench);
});

test('opt-outs are remembered for ten minutes from when they were last said, and forgetting looks at the oldest only', () => {
  const bench = new Bench({
    ...configuration([person('a')], [queue('q', ['a'])]),
    campaigns: [campaign('x', 'q')],
  });
  const say = (seconds: number, e164: string) => bench.at(seconds, { kind: 'optedOut', e164 });
  say(0, '+13605550101');
  say(300, '+13605550102');
  say(400, '+13605550101');
  say(700, '+13605550103');
  expect([...bench.exchange.view().optedOut.keys()]).toEqual([
    '+13605550102',
    '+13605550101',
    '+13605550103',
  ]);
  say(950, '+13605550104');
  expect([...bench.exchange.view().optedOut.keys()]).toEqual([
    '+13605550101',
    '+13605550103',
    '+13605550104',
  ]);
  // As many as one likes: each takes its own time and no more.
  for (let i = 0; i < 20_000; i++) say(951, `+1212${String(1_000_000 + i)}`);
  expect(bench.exchange.view().optedOut.size).toBe(20_003);
});

test('a queue that is given a way out for when nobody is signed in sends on who waits there already', () => {
  const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
  bench.call(1);
  expect(bench.exchange.view().calls.get('c1')!.heapIndex).toBeGreaterThanOrEqual(0);
  bench.at(2, {
    kind: 'configurationChanged',
    changes: { queues: [queue('q', ['a'], { whenNobody: { kind: 'voicemail', id: 'a.box' } })] },
  });
  expect(bench.recordsOf('sentOn')).toMatchObject([{ because: 'nobodySignedIn' }]);
  sound(bench);
});

test('a contact under the name of a call in progress goes back instead of taking its place', () => {
  const bench = new Bench({
    ...configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]),
    campaigns: [campaign('x', 'q')],
  });
  bench.register(0, 'a', 'b');
  const contact = { e164: '+13605550101', name: '', attempt: 1, callableUntil: 9e9, record: null };
  const lease = (seconds: number, contactId: string) =>
    bench.at(seconds, {
      ...{ kind: 'contactsLeased', campaignId: 'x', askAgainAt: null },
      contacts: [{ ...contact, contactId, callId: 'out' }],
    });
  lease(1, 'one');
  expect(lease(2, 'two').effects).toContainEqual({
    ...{ kind: 'returnContacts', campaignId: 'x', contactIds: ['two'] },
  });
  expect(bench.exchange.view().calls.get('out')!.contact!.contactId).toBe('one');
  sound(bench);
});

test('a contact that stands twice in one hand-out is called once', () => {
  const bench = new Bench({
    ...configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]),
    campaigns: [campaign('x', 'q')],
  });
  bench.register(0, 'a', 'b');
  const contact = {
    contactId: 'one',
    e164: '+13605550101',
    name: '',
    attempt: 1,
    callableUntil: 9e9,
    record: null,
  };
  bench.at(1, {
    ...{ kind: 'contactsLeased', campaignId: 'x', askAgainAt: null },
    contacts: [
      { ...contact, callId: 'out-1' },
      { ...contact, callId: 'out-2' },
    ],
  });
  expect([...bench.exchange.view().calls.keys()]).toEqual(['out-1']);
  sound(bench);
});

test('who waits where nobody is signed in takes the way out when the first to come is away at once', () => {
  const bench = new Bench(
    configuration(
      [person('a', { startAway: true })],
      [queue('q', ['a'], { whenNobody: null, whenAllAway: { kind: 'voicemail', id: 'a.box' } })],
    ),
  );
  bench.call(1);
  expect(bench.recordsOf('sentOn')).toEqual([]);
  bench.register(2, 'a');
  expect(agent(bench, 'a').presence).toBe('away');
  expect(bench.recordsOf('sentOn')).toMatchObject([{ because: 'allAway' }]);
  sound(bench);
});
