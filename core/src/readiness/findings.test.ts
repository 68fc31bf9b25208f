import { expect, test } from 'vitest';
import { findings, type ReadinessInput } from './findings.ts';

const good: ReadinessInput = {
  people: [{ id: 'a', name: 'Ann', takesCalls: true, presence: 'available', phone: { state: 'registered' } }],
  queues: [
    {
      id: 'q',
      name: 'Q',
      peopleCount: 1,
      signedIn: 1,
      waiting: 0,
      maxWaitSeconds: 60,
      whenNobody: null,
      lacking: [],
    },
  ],
  ringGroups: [{ id: 'g', name: 'G', phones: 2, allSitOut: false }],
  numbers: [
    {
      id: 'n',
      e164: '+12065550140',
      label: 'Main',
      destination: { kind: 'queue', id: 'q' },
      destinationRetired: false,
      reports: 0,
    },
  ],
  trunks: [
    {
      ...{ id: 't', name: 'Lines', host: 'provider.example', reached: true, fault: '' },
      ...{ secretWeak: false, secretShared: false, certificateDays: null },
    },
  ],
  rules: [],
  phones: [
    {
      ...{ personId: 'a', personName: 'Ann', hasEmergencyAddress: true, hasCallerId: true },
      secretShared: false,
    },
  ],
  seats: { rented: 5, used: 4 },
  balance: { now: '80.00', isLow: false },
  campaigns: [
    {
      id: 'x',
      name: 'Winter',
      status: 'running',
      hasQueue: true,
      hasTrunk: true,
      hasCallerId: true,
      contacts: 10,
      abandonRate: 0.01,
      abandonLimit: 0.03,
      agents: 2,
    },
  ],
  plans: [],
  prompts: [],
  boxes: [],
  storageFull: false,
  hours: [],
  ofAnother: [],
  leaveBehinds: [],
  forwardLoops: [],
  connections: [{ id: 'h', name: 'Harbour Book', fault: null, waiting: 3 }],
  sources: [{ id: 's', name: 'Poster', numbers: 1 }],
  setAside: { count: 0, kind: '' },
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
  expect(codes({ queues: [{ ...good.queues[0]!, lacking: ['French'] }] })).toEqual(['queueNobodyFits']);
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

test('lines out, records, sources and campaigns', () => {
  const campaign = good.campaigns[0]!;
  expect(codes({ trunks: [{ ...good.trunks[0]!, reached: false }] })).toEqual(['trunkUnreached']);
  expect(codes({ trunks: [] })).toEqual(['noTrunks']);
  expect(codes({ connections: [{ ...good.connections[0]!, fault: 'It refused the key.' }] })).toEqual([
    'recordsAway',
  ]);
  expect(codes({ sources: [{ ...good.sources[0]!, numbers: 0 }] })).toEqual(['sourceWithoutNumber']);
  expect(findings({ ...good, setAside: { count: 2, kind: 'callerHungUp' } })).toMatchObject([
    { code: 'setAside', area: 'calls', severity: 'fault', itemName: 'callerHungUp', detail: '2' },
  ]);
  expect(codes({ campaigns: [{ ...campaign, agents: 0, abandonRate: 0.04 }] })).toEqual([
    'campaignAtLimit',
    'campaignNobody',
  ]);
  const draft = { ...campaign, status: 'draft' as const, hasCallerId: false, contacts: 0 };
  expect(findings({ ...good, campaigns: [draft] })).toMatchObject([
    { code: 'campaignIncomplete', detail: 'caller ID, contact list' },
  ]);
  expect(codes({ campaigns: [{ ...draft, status: 'finished' }] })).toEqual([]);
  const outside = { ...good.people[0]!, phone: { state: 'outside' as const, line: 'trunkGone' as const } };
  expect(codes({ people: [outside] })).toEqual(['outsideTrunkGone']);
});

test('lines that do not register, weak and shared secrets, certificates that end', () => {
  const trunk = good.trunks[0]!;
  expect(findings({ ...good, trunks: [{ ...trunk, fault: 'wrong secret' }] })).toMatchObject([
    { code: 'trunkRefused', detail: 'wrong secret' },
  ]);
  expect(codes({ trunks: [{ ...trunk, secretWeak: true, secretShared: true, certificateDays: 3 }] })).toEqual(
    ['secretWeak', 'secretShared', 'certificateEnds'],
  );
  expect(codes({ trunks: [{ ...trunk, certificateDays: 200 }] })).toEqual([]);
  // Who cannot be reached at all is not told of registration too.
  expect(codes({ trunks: [{ ...trunk, reached: false, fault: 'not reached' }] })).toEqual(['trunkUnreached']);
});

test('doubtful rules, phones without an address for help or a caller ID, seats', () => {
  const rule = { id: 'r', name: 'All', doubt: 'catchAll' as const };
  expect(findings({ ...good, rules: [rule] })).toMatchObject([
    { code: 'ruleCatchAll', area: 'dialling', severity: 'fault' },
  ]);
  const phone = good.phones[0]!;
  const phones = [
    { ...phone, hasEmergencyAddress: false },
    { ...phone, personId: 'b', personName: 'Bo', hasEmergencyAddress: false, hasCallerId: false },
  ];
  expect(findings({ ...good, phones })).toMatchObject([
    { code: 'noEmergencyAddress', itemName: 'Ann', detail: '2' },
    { code: 'noCallerId', itemName: 'Bo', detail: '1' },
  ]);
  expect(codes({ seats: { rented: 4, used: 4 } })).toEqual(['seatsTaken']);
  expect(codes({ balance: { now: '3.00', isLow: true } })).toEqual(['balanceLow']);
  expect(codes({ numbers: [{ ...good.numbers[0]!, reports: 2 }] })).toEqual(['numberReported']);
});

test('an empty installation is told what comes first', () => {
  const none = {
    plans: [],
    prompts: [],
    boxes: [],
    storageFull: false,
    hours: [],
    ofAnother: [],
    leaveBehinds: [],
    forwardLoops: [],
    people: [],
    queues: [],
    ringGroups: [],
    numbers: [],
    trunks: [],
    rules: [],
    phones: [],
    seats: { rented: null, used: 0 },
    balance: { now: '0.00', isLow: false },
    campaigns: [],
    connections: [],
    sources: [],
    setAside: { count: 0, kind: '' },
  };
  expect(findings(none).map((finding) => finding.code)).toEqual(['noNumbers', 'noPeople', 'noQueues']);
});

test('a ring group rings somebody, and not all of them sit out', () => {
  const group = good.ringGroups[0]!;
  expect(codes({ ringGroups: [group] })).toEqual([]);
  expect(codes({ ringGroups: [{ ...group, phones: 0, allSitOut: true }] })).toEqual(['groupRingsNobody']);
  expect(codes({ ringGroups: [{ ...group, allSitOut: true }] })).toEqual(['groupAllSitOut']);
});
