import { describe, expect, test } from 'vitest';
import type { QueueItem } from '../../model/configuration.ts';
import { compiledPlan } from '../../plan/document.ts';
import { ropeSteps } from '../../story/describe.ts';
import { Bench, callerNumber, configuration, person, queue, unroutedNumber } from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import { brokenInvariants } from '../snapshot.ts';

const notice = { id: 'notice', name: 'Talks are recorded', seconds: 3, words: 'This call is recorded.' };

/** A number that records as `config` says and leads to queue `q`; with none it only leads there. */
function bench(config: object | null, queueIs: Partial<QueueItem> = {}) {
  const plan = compiledPlan('p', 1, {
    start: config === null ? 'q' : 'set',
    steps: {
      ...(config === null
        ? {}
        : {
            set: {
              kind: 'recording',
              config: { does: 'on', promptId: 'notice', mayPause: 'talker', ...config },
              exits: { next: 'q' },
            },
          }),
      q: { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} },
    },
  });
  const base = configuration([person('a'), person('b')], [queue('q', ['a'], queueIs)]);
  const made = new Bench({
    ...base,
    prompts: [notice],
    numbers: base.numbers.map((number) => (number.e164 === unroutedNumber ? { ...number, plan } : number)),
  });
  made.register(0, 'a', 'b');
  return made;
}
const arrive = (made: Bench) => {
  made.at(0, { kind: 'callArrived', callId: 'c', to: unroutedNumber, from: callerNumber });
  made.at(9, { kind: 'clock' });
};
const agentLeg = (made: Bench, personId = 'a') =>
  made.exchange
    .view()
    .calls.get('c')!
    .legs.find((leg) => leg.personId === personId)!.id;
const answer = (made: Bench, at = 10) => made.at(at, { kind: 'legAnswered', leg: agentLeg(made) });
const told = (made: Bench) => made.effectsOf('recordTalk').map(({ part, does }) => `${part} ${does}`);

describe('what is recorded', () => {
  test('as the plan says: after the notice, from the answer to the end', () => {
    const made = bench({});
    arrive(made);
    expect(made.effectsOf('say')).toMatchObject([{ promptId: 'notice', seconds: 3, keys: [] }]);
    answer(made);
    expect(brokenInvariants(made.exchange.view())).toEqual([]);
    made.at(70, { kind: 'callerHungUp', callId: 'c' });
    expect(told(made)).toEqual(['1 start', '1 stop']);
    expect(made.effectsOf('talkRecorded')).toMatchObject([
      { callId: 'c', part: 1, personId: 'a', queueId: 'q', planId: 'p', from: 10_000, recordedMs: 60_000 },
    ]);
    expect(ropeSteps(made.records, null).map(({ title }) => title)).toEqual(
      expect.arrayContaining(['Talks are recorded from here on', 'Recorded', '1:00 recorded']),
    );
  });

  test('the caller leaves while the notice plays, or no agent comes: nothing is', () => {
    const made = bench({});
    made.at(0, { kind: 'callArrived', callId: 'c', to: unroutedNumber, from: callerNumber });
    made.at(1, { kind: 'callerHungUp', callId: 'c' });
    expect(told(made)).toEqual([]);
  });

  test.each([
    ['the plan says no', { does: 'off' }, { recording: 'always', recordingNoticeId: 'notice' }, []],
    ['the queue never does', {}, { recording: 'never' }, ['queueNever']],
    ['the notice is gone', { promptId: 'gone' }, {}, ['notTold']],
    ['nobody says anything', null, {}, []],
    ['the queue has no notice to say', null, { recording: 'always' }, ['notTold']],
  ] as const)('nothing is recorded when %s', (_, config, queueIs, why) => {
    const made = bench(config, queueIs);
    arrive(made);
    answer(made);
    expect(told(made)).toEqual([]);
    expect(made.recordsOf('notRecorded').map((record) => record.why)).toEqual(why);
  });

  test('an earlier prompt may be the notice', () => {
    const made = bench({ promptId: '' });
    arrive(made);
    answer(made);
    expect(told(made)).toEqual(['1 start']);
  });

  test('as the queue says: it plays its notice before the caller waits, once for each call', () => {
    const made = bench(null, { recording: 'always', recordingNoticeId: 'notice' });
    made.at(0, { kind: 'callArrived', callId: 'c', to: unroutedNumber, from: callerNumber });
    expect(made.rung()).toEqual([]);
    made.at(3, { kind: 'clock' });
    expect(made.rung()).toEqual(['a']);
    answer(made);
    expect(told(made)).toEqual(['1 start']);
    expect(made.recordsOf('recordingBegan')).toMatchObject([{ by: 'queue' }]);
    made.at(20, { kind: 'callTransferred', leg: agentLeg(made), to: { kind: 'queue', id: 'q' } });
    expect(made.effectsOf('say')).toHaveLength(1);
  });

  test('whoever leaves the queue for a person is not recorded for the queue any more', () => {
    const made = bench(null, { recording: 'always', recordingNoticeId: 'notice' });
    arrive(made);
    answer(made);
    made.at(20, { kind: 'callTransferred', leg: agentLeg(made), to: { kind: 'person', id: 'b' } });
    made.at(25, { kind: 'legAnswered', leg: agentLeg(made, 'b') });
    expect(told(made)).toEqual(['1 start', '1 stop']);
  });

  test('with no room for recordings the talk goes on without', () => {
    const made = bench({});
    made.at(0, { kind: 'storageChanged', full: true });
    arrive(made);
    answer(made);
    expect(told(made)).toEqual([]);
    expect(made.recordsOf('notRecorded')).toMatchObject([{ why: 'storageFull' }]);
  });
});

describe('pauses', () => {
  const pause = (made: Bench, at: number, paused: boolean, personId = 'a') =>
    made.at(at, { kind: 'recordingPaused', callId: 'c', personId, paused }).refusal;

  test('by whoever talks: what was paused is left out of the length', () => {
    const made = bench({});
    arrive(made);
    answer(made);
    expect(pause(made, 20, true)).toBeNull();
    expect(pause(made, 21, true)).toBe('notRecording');
    expect(pause(made, 50, false)).toBeNull();
    made.at(70, { kind: 'legEnded', leg: agentLeg(made) });
    expect(told(made)).toEqual(['1 start', '1 pause', '1 resume', '1 stop']);
    expect(made.effectsOf('talkRecorded')).toMatchObject([{ recordedMs: 30_000, pausedMs: 30_000 }]);
  });

  test('one that still lasts at the end counts too, and a restart in the midst forgets none', () => {
    const made = bench({});
    arrive(made);
    answer(made);
    pause(made, 40, true);
    const again = Exchange.restore(made.exchange.snapshot());
    const { effects } = again.handle({
      ...{ seq: again.seq + 1, at: 70_000, kind: 'callerHungUp', callId: 'c' },
    });
    expect(effects.find(({ kind }) => kind === 'talkRecorded')).toMatchObject({
      ...{ recordedMs: 30_000, pausedMs: 30_000 },
    });
  });

  test('only by whom the plan lets', () => {
    const supervisors = bench({ mayPause: 'supervisors' });
    arrive(supervisors);
    answer(supervisors);
    expect(pause(supervisors, 20, true)).toBe('mayNotPause');
    expect(pause(supervisors, 21, true, 'b')).toBeNull();
    const nobody = bench({ mayPause: 'nobody' });
    arrive(nobody);
    answer(nobody);
    expect(pause(nobody, 20, true, 'b')).toBe('mayNotPause');
    expect(pause(bench({}), 20, true)).toBe('unknownCall');
  });

  test('while the caller is on hold nothing is recorded, and a colleague who takes them has a part of their own', () => {
    const made = bench({});
    arrive(made);
    answer(made);
    made.at(20, { kind: 'consultationAsked', leg: agentLeg(made), personId: 'b' });
    made.at(25, { kind: 'legAnswered', leg: agentLeg(made, 'b') });
    made.at(40, { kind: 'legEnded', leg: agentLeg(made) });
    made.at(60, { kind: 'callerHungUp', callId: 'c' });
    expect(told(made)).toEqual(['1 start', '1 pause', '1 stop', '2 start', '2 stop']);
    expect(made.effectsOf('talkRecorded')).toMatchObject([
      { part: 1, personId: 'a', recordedMs: 10_000, pausedMs: 20_000 },
      { part: 2, personId: 'b', recordedMs: 20_000, pausedMs: 0 },
    ]);
  });

  test('a caller who is taken back is recorded on', () => {
    const made = bench({});
    arrive(made);
    answer(made);
    made.at(20, { kind: 'consultationAsked', leg: agentLeg(made), personId: 'b' });
    made.at(22, { kind: 'callerRetrieved', leg: agentLeg(made) });
    expect(told(made)).toEqual(['1 start', '1 pause', '1 resume']);
  });
});
