/** A busy day of a made-up company, written down once as events, so that any engine can be timed over it. */
import { IndexedHeap } from '../src/collections/indexed-heap.ts';
import { Exchange } from '../src/exchange/exchange.ts';
import type { ExchangeEventBody, LeasedContact } from '../src/exchange/kernel/events.ts';
import { type Configuration, defaultSettings } from '../src/model/configuration.ts';
import { planOf } from '../src/plan/compile.ts';

export interface Size {
  agents: number;
  queues: number;
  /** Campaigns beside the callers. */
  campaigns: number;
}

/** Each agent in three of the queues. */
export function company({ agents, queues, campaigns }: Size): Configuration {
  const ids = Array.from({ length: agents }, (_, i) => `agent-${String(i).padStart(5, '0')}`);
  const members = Array.from({ length: queues }, () => [] as string[]);
  ids.forEach((id, i) => [0, 7, 13].forEach((step) => members[(i + step) % queues]!.push(id)));
  return {
    settings: defaultSettings,
    people: ids.map((id) => ({
      ...{ id, name: id, teamId: null, extension: null, callLimit: 1, ringSeconds: 20 },
      ...{ signInWithPhone: true, startAway: false, answerBySelf: false, wrapUpSeconds: null },
      ...{ skills: {}, noAnswer: [], voicemailBoxId: null },
    })),
    phones: ids.map((id) => ({
      ...{ id: `${id}.phone`, personId: id, kind: 'softphone', account: id, home: false, e164: null },
      ...{ trunkId: null, callerId: null, dialTrunkId: null, emergencyAddress: null },
    })),
    queues: members.map((list, i) => ({
      ...{ id: `queue-${i}`, name: `Queue ${i}`, extension: null, priority: i % 3, ringSeconds: 15 },
      ...{ wrapUpSeconds: 20, preferOwner: false, skills: [], members: list },
      ...{ maxWaiting: 200, maxWaitSeconds: 600, whenNobody: null },
      whenFull: { kind: 'end' },
      whenTooLong: { kind: 'end' },
    })),
    numbers: members.map((_, i) => ({
      ...{ id: `number-${i}`, e164: `+1206555${1000 + i}`, label: '', sourceId: null },
      plan: planOf(`number-${i}`, 1, { kind: 'queue', id: `queue-${i}` }),
    })),
    voicemailBoxes: [],
    outsideNumbers: [],
    rooms: [],
    ringGroups: [],
    faxBoxes: [],
    blocked: [],
    codes: [],
    hours: [],
    prompts: [],
    regions: [],
    bots: [],
    plans: [],
    rules: [],
    trunks: [{ id: 'trunk', name: 'Trunk', host: '', account: '', channels: 500, callerId: null }],
    campaigns: Array.from({ length: campaigns }, (_, i) => ({
      ...{ id: `campaign-${i}`, name: `Campaign ${i}`, running: true, queueId: `queue-${i * 5}` },
      ...{ trunkId: 'trunk', callerId: '+12065551000', numberId: null, ratio: 1.5, mostInAir: null },
      ...{ ringSeconds: 20, abandonLimit: 0.03, messageSeconds: 6, optOutKey: '9' },
    })),
  };
}

export interface Day {
  size: Size;
  bodies: ExchangeEventBody[];
  times: number[];
}

/**
 * `calls` come in at random, `perSecond` of them on average, and are talked over for `talkMs` on average, uniform from
 * two fifths to eight fifths of it. Some offers are declined. The draws are the same each time.
 */
export function writeDay(size: Size, calls: number, perSecond: number, talkMs: number): Day {
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
  const configuration = company(size);
  take(0, { kind: 'configurationChanged', changes: configuration });
  const agenda = new IndexedHeap<{ at: number; body: ExchangeEventBody; heapIndex: number }>(
    (one, other) => one.at < other.at,
  );
  const plan = (at: number, body: ExchangeEventBody) => agenda.push({ at, body, heapIndex: -1 });
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
    plan(lifts, { kind: 'legAnswered', leg });
    plan(lifts + 1_500, { kind: 'greetingEnded', leg, by: luck < 0.4 ? 'person' : 'machine' });
  };
  let arrivals = 0;
  for (const phone of configuration.phones)
    plan(0, { kind: 'phoneRegistered', phoneId: phone.id, address: '' });
  plan(1, { kind: 'clock' });
  while (arrivals < calls) {
    const next = agenda.pop()!;
    const effects = [...take(next.at, next.body).effects];
    if (next.body.kind === 'clock') {
      const callId = `call-${arrivals++}`;
      const to = configuration.numbers[Math.floor(draw() * size.queues)]!.e164;
      effects.push(...take(next.at, { kind: 'callArrived', callId, to, from: '+13605550117' }).effects);
      plan(next.at + Math.ceil((draw() * 2_000) / perSecond), { kind: 'clock' });
    }
    for (const effect of effects) {
      if (effect.kind === 'ring') {
        const declines = draw() < 0.03;
        plan(
          next.at + (effect.answerBySelf ? 200 : 1_000 + Math.ceil(draw() * 6_000)),
          declines
            ? { kind: 'legFailed', leg: effect.leg, cause: 'declined' }
            : { kind: 'legAnswered', leg: effect.leg },
        );
      } else if (effect.kind === 'connect') {
        const outbound = exchange.view().calls.get(effect.callId)?.direction === 'outbound';
        plan(
          next.at + Math.ceil(talkMs * (0.4 + 1.2 * draw())),
          outbound
            ? { kind: 'legEnded', leg: effect.legs[0] }
            : { kind: 'callerHungUp', callId: effect.callId },
        );
      } else if (effect.kind === 'wantContacts') {
        const contacts = Array.from({ length: effect.count }, () => newContact());
        plan(next.at, {
          ...{ kind: 'contactsLeased', campaignId: effect.campaignId, contacts, askAgainAt: null },
        });
      } else if (effect.kind === 'dial') contactRings(effect.leg, next.at);
    }
  }
  return { size, bodies, times };
}

/** Anything that takes events as the exchange does. */
export interface Engine {
  handle(event: unknown, detail: 'bounded'): { records: unknown[] };
}

/** Milliseconds that an engine takes over the day, with bounded records. */
export function timeDay(engine: Engine, bodies: readonly object[], times: readonly number[]): number {
  let made = 0;
  const started = performance.now();
  for (let i = 0; i < bodies.length; i++)
    made += engine.handle({ seq: i + 1, at: times[i]!, ...bodies[i] }, 'bounded').records.length;
  const took = performance.now() - started;
  if (made === 0) throw new Error('no decision records were made');
  return took;
}

export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}
