import { describe, expect, test } from 'vitest';
import type { CampaignItem, Configuration, PhoneItem } from '../../model/configuration.ts';
import {
  Bench,
  callerNumber,
  campaign,
  configuration,
  contacts,
  mainNumber,
  outsideNumber,
  person,
  queue,
  trunk,
} from '../exchange.testing.ts';
import { brokenInvariants } from '../snapshot.ts';

/** Agents a, b, c in queue q; campaign x over trunk t. */
function outbound(change: Partial<CampaignItem> = {}, people = ['a', 'b', 'c']): Configuration {
  const set = configuration(
    people.map((id) => person(id)),
    [queue('q', people)],
  );
  return { ...set, campaigns: [campaign('x', 'q', change)] };
}

function working(set: Configuration, ...people: string[]): Bench {
  const bench = new Bench(set);
  bench.register(0, ...people);
  return bench;
}

describe('a campaign', () => {
  test('asks for contacts only while agents are free, and keeps floor(ratio x free) calls in the air', () => {
    const bench = new Bench(outbound({ ratio: 1.5 }));
    expect(bench.effectsOf('wantContacts')).toEqual([]);
    bench.register(0, 'a', 'b', 'c');
    expect(bench.effectsOf('wantContacts').length).toBe(1);
    bench.lease(1, 20);
    expect(bench.dialled()).toEqual(['k1', 'k2', 'k3', 'k4']);
    expect(bench.effectsOf('dial')[0]).toMatchObject({
      digits: '+13605551001',
      callerId: mainNumber,
      trunkId: 't',
      contact: { id: 'k1', campaignId: 'x', attempt: 1 },
    });
    expect(bench.recordsOf('launched')[3]).toMatchObject({
      free: 3,
      inAir: 3,
      pace: { ratio: 1.5, why: 'ratio' },
    });
    bench.at(30, { kind: 'clock' });
    expect(
      bench
        .ended()
        .slice(0, 4)
        .map((facts) => facts.result),
    ).toEqual(Array(4).fill('noAnswer'));
    // Those who rang out are replaced at once.
    expect(bench.dialled()).toHaveLength(8);
  });

  test('puts a person who answers through to the agent idle longest, whose phone answers by itself', () => {
    const bench = working(outbound(), 'b', 'a');
    bench.lease(1, 10);
    bench.lifts(5, 'k1');
    const ring = bench.effectsOf('ring').at(-1)!;
    expect(ring).toMatchObject({ personId: 'a', answerBySelf: true, from: '+13605551001' });
    bench.at(6.2, { kind: 'legAnswered', leg: ring.leg });
    expect(bench.recordsOf('answered')[0]).toMatchObject({
      personId: 'a',
      waitedMs: 200,
      phone: 'softphone',
    });
    bench.at(66, { kind: 'legEnded', leg: 'k1-call.1' });
    expect(bench.ended().at(-1)).toMatchObject({
      direction: 'outbound',
      result: 'answered',
      endedBy: 'contact',
      personId: 'a',
      contactId: 'k1',
      campaignId: 'x',
      queueId: 'q',
      waitedMs: 200,
      trunkId: 't',
    });
    expect(bench.exchange.view().agents.get('a')!.wrapUpUntil).toBe(76_000);
  });

  test('an answered contact comes before callers who wait, and within two seconds or not at all', () => {
    const bench = working(outbound({}, ['a']), 'a');
    bench.lease(1, 2);
    expect(bench.dialled()).toEqual(['k1', 'k2']);
    bench.lifts(3, 'k1');
    bench.at(4.1, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.call(5);
    bench.lifts(6, 'k2');
    bench.at(8, { kind: 'legEnded', leg: 'k1-call.1' });
    // a wraps up: nobody takes k2 by 9 s.
    bench.at(9.5, { kind: 'clock' });
    expect(bench.recordsOf('noAgentInTime')).toMatchObject([{ callId: 'k2-call', afterMs: 2_000 }]);
    expect(bench.effectsOf('play').at(-1)).toMatchObject({ leg: 'k2-call.1', prompt: 'abandoned' });
    bench.at(15, { kind: 'clock' });
    expect(bench.ended().at(-1)).toMatchObject({ callId: 'k2-call', result: 'abandoned', waitedMs: 2_000 });
    bench.at(18, { kind: 'clock' });
    expect(bench.rung().at(-1)).toBe('a');
    expect(bench.exchange.view().agents.get('a')!.ringing!.id).toBe('c1');
  });

  test('at the abandon limit the ratio falls to 1.0 with an agent reserved for each call in the air', () => {
    const bench = working(outbound({ ratio: 2 }), 'a', 'b');
    bench.at(0, {
      kind: 'talliesKnown',
      campaignId: 'x',
      tallies: [{ day: -3, answered: 100, abandoned: 3 }],
    });
    bench.lease(1, 10);
    expect(bench.dialled()).toEqual(['k1', 'k2']);
    expect(bench.recordsOf('launched')[0]).toMatchObject({
      pace: { ratio: 1, reserve: true, why: 'atLimit' },
      reservedName: 'Person a',
    });
    const agent = bench.exchange.view().agents.get('a')!;
    expect(agent.reservedFor!.id).toBe('k1-call');
    // A caller who comes now waits: both are kept.
    bench.call(2);
    expect(bench.recordsOf('decision').at(-1)!.candidates.counts).toMatchObject({ reserved: 2 });
    bench.lifts(5, 'k1');
    expect(bench.recordsOf('decision').at(-1)).toMatchObject({ chosen: 'a', why: 'reservedForThis' });
    bench.at(7, { kind: 'legFailed', leg: 'k2-call.1', cause: 'busy' });
    expect(bench.ended().at(-1)).toMatchObject({ contactId: 'k2', result: 'busy' });
    // b is free again, for the caller who waits.
    expect(bench.rung().at(-1)).toBe('b');
  });

  test('old days do not count: after thirty days the ratio is its own again', () => {
    const bench = working(outbound({ ratio: 2 }), 'a');
    bench.at(0, {
      kind: 'talliesKnown',
      campaignId: 'x',
      tallies: [{ day: -30, answered: 100, abandoned: 50 }],
    });
    bench.lease(1, 10);
    expect(bench.dialled()).toHaveLength(2);
  });

  test('machines, refusals and numbers that do not exist end with the cause of the trade', () => {
    const bench = working(outbound(), 'a', 'b');
    bench.lease(1, 4);
    bench.lifts(3, 'k1', 'machine');
    for (const [id, cause] of [
      ['k2', 'noRoute'],
      ['k3', 'congestion'],
      ['k4', 'declined'],
    ] as const)
      bench.at(5, { kind: 'legFailed', leg: `${id}-call.1`, cause });
    expect(bench.ended().map((facts) => [facts.contactId, facts.result])).toEqual([
      ['k1', 'machine'],
      ['k2', 'noRoute'],
      ['k3', 'congestion'],
      ['k4', 'refused'],
    ]);
    expect(bench.rung()).toEqual([]);
  });

  test('who hangs up in the greeting, or before two seconds are over, was not abandoned', () => {
    const bench = working(outbound({ ratio: 4 }), 'a');
    bench.lease(1, 4);
    bench.at(3, { kind: 'legAnswered', leg: 'k1-call.1' });
    bench.at(3.5, { kind: 'legEnded', leg: 'k1-call.1' });
    bench.lifts(4, 'k2');
    bench.lifts(4.2, 'k3');
    bench.at(6, { kind: 'legEnded', leg: 'k3-call.1' });
    expect(bench.ended().map((facts) => [facts.contactId, facts.result])).toEqual([
      ['k1', 'hungUp'],
      ['k3', 'hungUp'],
    ]);
  });

  test('paused, it gives its contacts back and lets ring what rings', () => {
    const set = outbound();
    const bench = working(set, 'a');
    bench.lease(1, 6);
    const paused = { ...set.campaigns[0]!, running: false };
    bench.at(2, { kind: 'configurationChanged', changes: { campaigns: [paused] } });
    expect(bench.effectsOf('returnContacts').at(-1)!.contactIds).toEqual(['k3', 'k4', 'k5', 'k6']);
    bench.lifts(5, 'k1');
    expect(bench.rung()).toEqual(['a']);
    bench.lease(6, 3, 10);
    expect(bench.effectsOf('returnContacts').at(-1)!.contactIds).toEqual(['k10', 'k11', 'k12']);
    expect(bench.dialled()).toEqual(['k1', 'k2']);
  });

  test('a contact whose calling hours ended meanwhile goes back and is not called', () => {
    const bench = working(outbound(), 'a');
    const [late, fine] = contacts(2);
    bench.at(10, {
      kind: 'contactsLeased',
      campaignId: 'x',
      contacts: [{ ...late!, callableUntil: 10_000 }, fine!],
      askAgainAt: null,
    });
    expect(bench.dialled()).toEqual(['k2']);
    expect(bench.effectsOf('returnContacts')).toMatchObject([{ contactIds: ['k1'] }]);
  });

  test('when there are none, it asks again at the moment the host named', () => {
    const bench = working(outbound(), 'a');
    bench.at(1, { kind: 'contactsLeased', campaignId: 'x', contacts: [], askAgainAt: 60_000 });
    bench.at(59, { kind: 'clock' });
    expect(bench.effectsOf('wantContacts')).toHaveLength(1);
    bench.at(60, { kind: 'clock' });
    expect(bench.effectsOf('wantContacts')).toHaveLength(2);
    bench.at(61, { kind: 'contactsLeased', campaignId: 'x', contacts: [], askAgainAt: null });
    bench.at(9_999, { kind: 'clock' });
    expect(bench.effectsOf('wantContacts')).toHaveLength(2);
    bench.at(10_000, { kind: 'contactsChanged', campaignId: 'x' });
    expect(bench.effectsOf('wantContacts')).toHaveLength(3);
  });
});

describe('opting out', () => {
  test('while it rings the call stops; contacts not called yet go back; nobody of that number is called again', () => {
    const bench = working(outbound({ ratio: 1 }), 'a');
    bench.lease(1, 2);
    bench.at(2, { kind: 'optedOut', e164: '+13605551001' });
    expect(bench.effectsOf('stopRinging')).toMatchObject([{ leg: 'k1-call.1', why: 'optedOut' }]);
    expect(bench.ended()).toMatchObject([{ contactId: 'k1', result: 'optedOut' }]);
    expect(bench.dialled()).toEqual(['k1', 'k2']);
    const again = contacts(1).map((each) => ({ ...each, contactId: 'k9', callId: 'k9-call' }));
    bench.at(3, { kind: 'contactsLeased', campaignId: 'x', contacts: again, askAgainAt: null });
    bench.at(30, { kind: 'clock' });
    expect(bench.dialled()).toEqual(['k1', 'k2']);
    expect(bench.effectsOf('returnContacts').at(-1)!.contactIds).toEqual(['k9']);
  });

  test('by key: in the greeting it ends the call, in the message it is still an abandoned call', () => {
    const bench = working(outbound({ ratio: 3 }, ['a']), 'a');
    bench.lease(1, 3);
    bench.at(3, { kind: 'legAnswered', leg: 'k1-call.1' });
    expect(bench.at(3.2, { kind: 'keyPressed', leg: 'k1-call.1', key: '5' }).refusal).toBe('notExpected');
    bench.at(3.5, { kind: 'keyPressed', leg: 'k1-call.1', key: '9' });
    bench.lifts(4, 'k2');
    bench.lifts(4, 'k3');
    bench.at(5.1, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(8, { kind: 'clock' });
    bench.at(9, { kind: 'keyPressed', leg: 'k3-call.1', key: '9' });
    expect(bench.effectsOf('optOut').map((effect) => effect.e164)).toEqual(['+13605551001', '+13605551003']);
    expect(bench.ended().map((facts) => facts.result)).toEqual(['optedOut', 'abandoned']);
  });
});

describe('an outside number', () => {
  const set = (channels = 10): Configuration => {
    const base = configuration([person('a'), person('r')], [queue('q', ['r', 'a'])]);
    return {
      ...base,
      phones: [base.phones[0]!, outsideNumber('r')] as PhoneItem[],
      trunks: [trunk(channels)],
    };
  };
  const remote = (channels = 10, set_ = set(channels)) => {
    const bench = new Bench(set_);
    bench.at(0, { kind: 'agentSignedIn', personId: 'r' });
    return bench;
  };

  test('is dialled over the trunk, and takes the call with the key', () => {
    const bench = remote();
    bench.call(5);
    const dial = bench.effectsOf('dial')[0]!;
    expect(dial).toMatchObject({
      personId: 'r',
      digits: '+12505550190',
      callerId: mainNumber,
      contact: null,
    });
    bench.at(9, { kind: 'legAnswered', leg: dial.leg });
    expect(bench.effectsOf('play').at(-1)).toMatchObject({ leg: dial.leg, prompt: 'acceptCall' });
    expect(bench.effectsOf('connect')).toEqual([]);
    bench.at(11, { kind: 'keyPressed', leg: dial.leg, key: '4' });
    bench.at(12, { kind: 'keyPressed', leg: dial.leg, key: '1' });
    expect(bench.effectsOf('connect')).toHaveLength(1);
    expect(bench.recordsOf('answered')[0]).toMatchObject({
      personId: 'r',
      phone: 'outside',
      waitedMs: 7_000,
    });
    expect(bench.recordsOf('decision')[0]!.candidates.listed[0]!.phone).toBe('outside');
    expect(bench.exchange.view().trunks.get('t')!.inUse).toBe(1);
    bench.at(60, { kind: 'callerHungUp', callId: 'c1' });
    expect(bench.exchange.view().trunks.get('t')!.inUse).toBe(0);
  });

  test('lifted by a mailbox that presses no key, it counts as not answered', () => {
    const bench = remote();
    bench.call(5);
    const { leg } = bench.effectsOf('dial')[0]!;
    bench.at(9, { kind: 'legAnswered', leg });
    bench.at(21, { kind: 'clock' });
    expect(bench.recordsOf('notTaken')[0]).toMatchObject({
      personId: 'r',
      reason: 'notAccepted',
      backOffUntil: 51_000,
    });
    expect(bench.exchange.view().agents.get('r')!.misses).toBe(1);
  });

  test('is no candidate while the trunk has no channel free, and is one again when it has', () => {
    const bench = remote(1);
    bench.at(3, { kind: 'callArrived', callId: 'in', to: '+12065550142', from: callerNumber, trunkId: 't' });
    // Leads nowhere: the channel is free again.
    expect(bench.exchange.view().trunks.get('t')!.inUse).toBe(0);
    bench.at(4, { kind: 'callArrived', callId: 'c', to: mainNumber, from: callerNumber, trunkId: 't' });
    const decision = bench.recordsOf('decision')[0]!;
    expect(decision.chosen).toBeNull();
    expect(decision.candidates.counts).toMatchObject({ trunkFull: 1 });
    bench.at(5, {
      kind: 'configurationChanged',
      changes: { trunks: [trunk(2)] },
    });
    expect(bench.effectsOf('dial')).toHaveLength(1);
  });

  test('takes part in a campaign only over a line accepted before and held open', () => {
    const base = set();
    const bench = remote(10, { ...base, campaigns: [campaign('x', 'q', { ratio: 1 })] });
    expect(bench.effectsOf('wantContacts')).toEqual([]);
    bench.at(1, { kind: 'persistentLineAsked', callId: 'line', personId: 'r' });
    bench.at(4, { kind: 'legAnswered', leg: 'line.1' });
    bench.at(6, { kind: 'keyPressed', leg: 'line.1', key: '1' });
    expect(bench.effectsOf('wantContacts')).toHaveLength(1);
    bench.lease(7, 1);
    bench.lifts(9, 'k1');
    expect(bench.effectsOf('takeLine')).toMatchObject([{ callId: 'k1-call', line: 'line.1' }]);
    expect(bench.recordsOf('answered')[0]).toMatchObject({ personId: 'r', phone: 'openLine', waitedMs: 0 });
    bench.at(30, { kind: 'legEnded', leg: 'k1-call.1' });
    expect(bench.exchange.view().agents.get('r')!.persistentLine!.id).toBe('line');
    // Hanging the line up in a talk ends the talk.
    bench.at(60, { kind: 'clock' });
    const callId = bench.call(61);
    expect(bench.recordsOf('answered').at(-1)).toMatchObject({ callId, personId: 'r' });
    bench.at(70, { kind: 'legEnded', leg: 'line.1' });
    expect(bench.ended().slice(-2)).toMatchObject([
      { callId, endedBy: 'agent', result: 'answered' },
      { direction: 'line', result: 'lineClosed' },
    ]);
    expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  });

  test('without a line the decision of a campaign says so', () => {
    const bench = remote(10, { ...set(), campaigns: [campaign('x', 'q', { ratio: 1 })] });
    bench.register(1, 'a');
    bench.lease(2, 1);
    bench.lifts(4, 'k1');
    const candidates = bench.recordsOf('decision')[0]!.candidates;
    expect(candidates).toMatchObject({ eligible: 1, total: 2, counts: { lineNotOpen: 1 } });
    expect(candidates.listed.find((each) => each.personId === 'r')!.reasons).toEqual([
      { code: 'lineNotOpen' },
    ]);
  });

  test('signing out closes the line; a phone chosen instead of it rings', () => {
    const base = set();
    const bench = new Bench({
      ...base,
      phones: [...base.phones, { ...base.phones[0]!, id: 'r.soft', personId: 'r', account: 'r' }],
    });
    bench.at(0, { kind: 'agentSignedIn', personId: 'r' });
    bench.at(1, { kind: 'phoneRegistered', phoneId: 'r.soft', address: '192.0.2.9' });
    bench.at(2, { kind: 'phoneChosen', personId: 'r', phoneId: 'r.soft' });
    bench.call(3);
    expect(bench.effectsOf('ring')).toMatchObject([{ phoneId: 'r.soft' }]);
    bench.at(4, { kind: 'callerHungUp', callId: 'c1' });
    bench.at(5, { kind: 'persistentLineAsked', callId: 'line', personId: 'r' });
    bench.at(6, { kind: 'agentSignedOut', personId: 'r' });
    expect(bench.ended().at(-1)).toMatchObject({ callId: 'line', direction: 'line', result: 'noAnswer' });
    expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  });
});

describe('the owner of a record', () => {
  const set = configuration([person('a'), person('b')], [queue('q', ['a', 'b'], { preferOwner: true })]);
  const arrival = (ownerId: string | null) =>
    ({
      kind: 'callArrived',
      callId: 'c',
      to: mainNumber,
      from: callerNumber,
      record: { id: 'r1', name: 'Fernby Stores', ownerId },
    }) as const;

  test('is rung first when free, and the decision says that and why', () => {
    const bench = new Bench(set);
    bench.register(0, 'a');
    bench.register(1, 'b');
    bench.at(5, arrival('b'));
    expect(bench.recordsOf('decision')[0]).toMatchObject({ chosen: 'b', why: 'recordOwner', owner: null });
    bench.at(6, { kind: 'legFailed', leg: bench.lastLeg(), cause: 'declined' });
    expect(bench.recordsOf('decision')[1]).toMatchObject({
      chosen: 'a',
      why: 'onlyOne',
      owner: { personId: 'b', name: 'Person b' },
    });
  });

  test('who cannot be rung is named with the reasons, and the longest idle is rung', () => {
    const bench = new Bench(set);
    bench.register(0, 'a');
    bench.at(5, arrival('b'));
    const decision = bench.recordsOf('decision')[0]!;
    expect(decision).toMatchObject({ chosen: 'a', owner: { name: 'Person b' } });
    expect(decision.candidates.listed.find((each) => each.personId === 'b')!.reasons).not.toEqual([]);
    expect(bench.effectsOf('ring')[0]!.callerName).toBe('Fernby Stores');
  });
});
