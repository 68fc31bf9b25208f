import { expect, test } from 'vitest';
import { findings, type ReadinessInput } from './findings.ts';

const good: ReadinessInput = {
  people: [{ id: 'a', name: 'Ann', takesCalls: true, presence: 'available', phone: { state: 'registered' } }],
  queues: [
    { id: 'q', name: 'Q', peopleCount: 1, signedIn: 1, waiting: 0, maxWaitSeconds: 60, whenNobody: null },
  ],
  numbers: [
    {
      id: 'n',
      e164: '+12065550140',
      label: 'Main',
      destination: { kind: 'queue', id: 'q' },
      destinationRetired: false,
    },
  ],
};
const codes = (input: Partial<ReadinessInput>) =>
  findings({ ...good, ...input }).map((finding) => finding.code);

test('a set-up without faults has no findings', () => {
  expect(codes({})).toEqual([]);
});

test('each fault is found once, faults before what is missing', () => {
  expect(
    codes({ people: [{ ...good.people[0]!, phone: { state: 'refused', why: 'wrong secret' } }] }),
  ).toEqual(['phoneRefused']);
  expect(codes({ people: [{ ...good.people[0]!, phone: { state: 'unregistered', since: 0 } }] })).toEqual([
    'signedInWithoutPhone',
  ]);
  expect(codes({ queues: [{ ...good.queues[0]!, peopleCount: 0 }] })).toEqual(['queueWithoutMembers']);
  expect(codes({ queues: [{ ...good.queues[0]!, maxWaitSeconds: null }] })).toEqual(['queueWithoutEnd']);
  expect(
    codes({
      queues: [{ ...good.queues[0]!, waiting: 2, signedIn: 0 }],
      numbers: [{ ...good.numbers[0]!, destination: null }],
    }),
  ).toEqual(['callersWaitNobodyThere', 'numberUnrouted']);
  expect(codes({ numbers: [{ ...good.numbers[0]!, destinationRetired: true }] })).toEqual([
    'destinationRetired',
  ]);
});

test('an empty installation is told what comes first', () => {
  expect(findings({ people: [], queues: [], numbers: [] }).map((finding) => finding.code)).toEqual([
    'noNumbers',
    'noPeople',
    'noQueues',
  ]);
});
