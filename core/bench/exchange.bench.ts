/**
 * Events per second of the exchange on one core, against a bare loop that does the same number of heap
 * pushes, heap removals and Map updates on structures of the same size and nothing else.
 */
import { Exchange } from '../src/exchange/exchange.ts';
import { IndexedHeap } from '../src/collections/indexed-heap.ts';
import type { ExchangeEventBody, LeasedContact } from '../src/exchange/kernel/events.ts';
import { planOf } from '../src/plan/compile.ts';
import { defaultSettings, type Configuration } from '../src/model/configuration.ts';

const agentCount = 1_000;
const queueCount = 20;
const callCount = 100_000;

/** 1,000 agents, each in three of 20 queues. */
function bigConfiguration(): Configuration {
  const ids = Array.from({ length: agentCount }, (_, i) => `agent-${String(i).padStart(4, '0')}`);
  const members = Array.from({ length: queueCount }, () => [] as string[]);
  ids.forEach((id, i) => [0, 7, 13].forEach((step) => members[(i + step) % queueCount]!.push(id)));
  return {
    settings: defaultSettings,
    people: ids.map((id) => ({
      id,
      name: id,
      teamId: null,
      extension: null,
      callLimit: 1,
      ringSeconds: 20,
      signInWithPhone: true,
      startAway: false,
      answerBySelf: false,
      wrapUpSeconds: null,
      skills: {},
      noAnswer: [],
      voicemailBoxId: null,
    })),
    phones: ids.map((id) => ({
      id: `${id}.phone`,
      personId: id,
      kind: 'softphone',
      account: id,
      home: false,
      e164: null,
      trunkId: null,
      callerId: null,
      dialTrunkId: null,
      emergencyAddress: null,
    })),
    queues: members.map((list, i) => ({
      id: `queue-${i}`,
      name: `Queue ${i}`,
      extension: null,
      priority: i % 3,
      ringSeconds: 15,
      wrapUpSeconds: 20,
      preferOwner: false,
      skills: [],
      members: list,
      maxWaiting: 200,
      whenFull: { kind: 'end' },
      maxWaitSeconds: 600,
      whenTooLong: { kind: 'end' },
      whenNobody: null,
    })),
    numbers: members.map((_, i) => ({
      id: `number-${i}`,
      e164: `+1206555${1000 + i}`,
      label: '',
      plan: planOf(`number-${i}`, 1, { kind: 'queue', id: `queue-${i}` }),
      sourceId: null,
    })),
    voicemailBoxes: [],
    outsideNumbers: [],
    rooms: [],
    faxBoxes: [],
    rules: [],
    trunks: [{ id: 'trunk', name: 'Trunk', host: '', account: '', channels: 500, callerId: null }],
    campaigns: [0, 1, 2, 3].map((i) => ({
      id: `campaign-${i}`,
      name: `Campaign ${i}`,
      running: true,
      queueId: `queue-${i * 5}`,
      trunkId: 'trunk',
      callerId: '+12065551000',
      numberId: null,
      ratio: 1.5,
      mostInAir: null,
      ringSeconds: 20,
      abandonLimit: 0.03,
      messageSeconds: 6,
      optOutKey: '9',
    })),
  };
}

/** A busy day written down once: about 97 % of the agents at work, some offers not taken, some callers give up. */
function writeDay(): ExchangeEventBody[] & { at?: number[] } {
  const exchange = new Exchange();
  const bodies: ExchangeEventBody[] = [];
  const times: number[] = [];
  let random = 12_345;
  const draw = () => (random = (random * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
  const take = (at: number, body: ExchangeEventBody) => {
    bodies.push(body);
    times.push(at);
    return exchange.handle({ seq: exchange.seq + 1, at, ...body }, 'none');
  };
  const configuration = bigConfiguration();
  take(0, { kind: 'configurationChanged', changes: configuration });
  const agenda = new IndexedHeap<{ at: number; body: ExchangeEventBody; heapIndex: number }>(
    (one, other) => one.at < other.at,
  );
  let contactCount = 0;
  const newContact = (): LeasedContact => ({
    contactId: `contact-${++contactCount}`,
    callId: `out-${contactCount}`,
    e164: `+1360${String(5_550_000 + (contactCount % 4_000_000)).padStart(7, '0')}`,
    name: '',
    attempt: 1,
    callableUntil: Number.MAX_SAFE_INTEGER,
    record: null,
  });
  /** Four of ten are people, two are machines, the rest ring out. */
  const contactRings = (leg: string, at: number) => {
    const luck = draw();
    if (luck > 0.6) return;
    const lifts = at + 3_000 + Math.ceil(draw() * 12_000);
    agenda.push({ at: lifts, body: { kind: 'legAnswered', leg }, heapIndex: -1 });
    const by = luck < 0.4 ? 'person' : 'machine';
    agenda.push({ at: lifts + 1_500, body: { kind: 'greetingEnded', leg, by }, heapIndex: -1 });
  };
  let arrivals = 0;
  for (const phone of configuration.phones)
    agenda.push({ at: 0, body: { kind: 'phoneRegistered', phoneId: phone.id, address: '' }, heapIndex: -1 });
  agenda.push({ at: 1, body: { kind: 'clock' }, heapIndex: -1 });
  while (arrivals < callCount) {
    const next = agenda.pop()!;
    const effects = [...take(next.at, next.body).effects];
    if (next.body.kind === 'clock') {
      const callId = `call-${arrivals++}`;
      const to = configuration.numbers[Math.floor(draw() * queueCount)]!.e164;
      effects.push(...take(next.at, { kind: 'callArrived', callId, to, from: '+13605550117' }).effects);
      agenda.push({ at: next.at + Math.ceil(draw() * 420), body: { kind: 'clock' }, heapIndex: -1 });
    }
    for (const effect of effects) {
      if (effect.kind === 'ring') {
        const declines = draw() < 0.03;
        agenda.push({
          at: next.at + (effect.answerBySelf ? 200 : 1_000 + Math.ceil(draw() * 6_000)),
          body: declines
            ? { kind: 'legFailed', leg: effect.leg, cause: 'declined' }
            : { kind: 'legAnswered', leg: effect.leg },
          heapIndex: -1,
        });
      } else if (effect.kind === 'connect') {
        const outbound = exchange.view().calls.get(effect.callId)?.direction === 'outbound';
        agenda.push({
          at: next.at + 60_000 + Math.ceil(draw() * 240_000),
          body: outbound
            ? { kind: 'legEnded', leg: effect.legs[0] }
            : { kind: 'callerHungUp', callId: effect.callId },
          heapIndex: -1,
        });
      } else if (effect.kind === 'wantContacts') {
        const contacts = Array.from({ length: effect.count }, () => newContact());
        agenda.push({
          at: next.at,
          body: { kind: 'contactsLeased', campaignId: effect.campaignId, contacts, askAgainAt: null },
          heapIndex: -1,
        });
      } else if (effect.kind === 'dial') contactRings(effect.leg, next.at);
    }
  }
  return Object.assign(bodies, { at: times });
}

interface Counts {
  pushes: number;
  removals: number;
  updates: number;
}

/** How many heap and Map operations the day takes, by counting them in a run that is not timed. */
function count(run: () => void): Counts {
  const counts: Counts = { pushes: 0, removals: 0, updates: 0 };
  const { push, remove } = IndexedHeap.prototype;
  const { set, delete: drop } = Map.prototype;
  IndexedHeap.prototype.push = function (node) {
    counts.pushes++;
    push.call(this, node);
  };
  IndexedHeap.prototype.remove = function (node) {
    if (node.heapIndex >= 0) counts.removals++;
    remove.call(this, node);
  };
  Map.prototype.set = function (key, value) {
    counts.updates++;
    return set.call(this, key, value);
  };
  Map.prototype.delete = function (key) {
    counts.updates++;
    return drop.call(this, key);
  };
  try {
    run();
  } finally {
    Object.assign(IndexedHeap.prototype, { push, remove });
    Object.assign(Map.prototype, { set, delete: drop });
  }
  return counts;
}

/** The same number of pushes, pops and Map updates, on heaps of as many nodes as there are queues of members. */
function bareLoop({ pushes, removals, updates }: Counts): number {
  const heaps = Array.from(
    { length: queueCount },
    () => new IndexedHeap<{ key: number; heapIndex: number }>((a, b) => a.key < b.key),
  );
  for (const heap of heaps) for (let i = 0; i < 150; i++) heap.push({ key: i, heapIndex: -1 });
  const map = new Map<number, number>();
  const started = performance.now();
  let key = 1_000;
  const rounds = Math.max(pushes, removals);
  for (let i = 0; i < rounds; i++) {
    const heap = heaps[i % queueCount]!;
    const node = i < removals ? heap.pop()! : { key: 0, heapIndex: -1 };
    if (i < pushes) {
      node.key = key++ - (key % 100);
      heap.push(node);
    }
  }
  for (let i = 0; i < updates; i++) {
    if (i % 2 === 0) map.set(i & 0x7ff, i);
    else map.delete((i - 1) & 0x7ff);
  }
  return performance.now() - started;
}

const day = writeDay();
const times = day.at!;

function runDay(): number {
  const exchange = new Exchange();
  let made = 0;
  const started = performance.now();
  for (let i = 0; i < day.length; i++) {
    const handled = exchange.handle({ seq: i + 1, at: times[i]!, ...day[i]! }, 'bounded');
    made += handled.records.length;
  }
  const took = performance.now() - started;
  if (made === 0) throw new Error('no decision records were made');
  return took;
}

const dialled = day.filter((body) => body.kind === 'greetingEnded').length;
const counts = count(runDay);
const ratios: number[] = [];
const rates: number[] = [];
for (let i = 0; i < 7; i++) {
  const bare = bareLoop(counts);
  const engine = runDay();
  if (i < 2) continue; // warm-up
  ratios.push(bare / engine);
  rates.push(day.length / (engine / 1000));
}
const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const bareRate = day.length / (bareLoop(counts) / 1000);
console.log(
  `exchange: ${day.length} events, ${agentCount} agents in three of ${queueCount} queues, 4 campaigns with ${dialled} calls out, bounded records`,
);
console.log(
  `  per event: ${(counts.pushes / day.length).toFixed(2)} heap pushes, ${(counts.removals / day.length).toFixed(2)} removals, ${(counts.updates / day.length).toFixed(2)} Map updates`,
);
console.log(
  `  engine ${Math.round(median(rates)).toLocaleString('en')} events/s, bare loop ${Math.round(bareRate).toLocaleString('en')} events/s`,
);
console.log(`  ratio ${median(ratios).toFixed(3)} (target: at least 0.100)`);
