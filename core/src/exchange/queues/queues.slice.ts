import { reasonCodes } from '../../distribute/eligibility.ts';
import type { QueueItem } from '../../model/configuration.ts';
import type { Agent } from '../agents/agent.ts';
import { answeredSince } from '../agents/answered-calls.ts';
import { joinQueue } from '../agents/reindex.ts';
import { type Measured, nothingMeasured } from '../../staffing/expected-wait.ts';
import type { Call } from '../calls/call.ts';
import { asIs, type CodecsOf, derived, type SavedBy, saveFields } from '../kernel/codecs.ts';
import type { Slice } from '../kernel/slice.ts';
import type { State } from '../kernel/state.ts';
import { Membership, QueueState } from './queue.ts';
import { pausesBeforeRinging } from './place.ts';

const codecs = {
  item: asIs<QueueItem>(),
  retired: asIs<boolean>(),
  measured: asIs<Measured>(),
  lastAnswered: asIs<number>(),
  draws: asIs<number>(),
  dayBegan: asIs<number>(),
  dayEnds: asIs<number>(),
  members: derived,
  idle: derived,
  stages: derived,
  rules: derived,
  present: derived,
  waitingList: derived,
  answered: derived,
  idleAutoAnswering: derived,
  inAir: derived,
  reservations: derived,
  offering: derived,
  pausing: derived,
  signedIn: derived,
  reasonCounts: derived,
  distribution: derived,
  draw: derived,
  inTurns: derived,
  countsToday: derived,
} satisfies CodecsOf<QueueState>;

export type Data = SavedBy<typeof codecs>[];

export const queuesSlice: Slice<Data> = {
  name: 'queues',
  version: 3,
  migrate: {
    1: (queues: Data) => queues.map((queue) => ({ ...queue, measured: nothingMeasured })),
    2: (queues: Data) =>
      queues.map((queue) => ({ ...queue, lastAnswered: -1, draws: 0, dayBegan: 0, dayEnds: 0 })),
  },
  // Those that are taken out are kept while a call is in them.
  save: (state) => {
    const queues = new Set(state.queues.values());
    for (const { queue } of state.calls.values()) if (queue !== null) queues.add(queue);
    return [...queues].map((queue) => saveFields(codecs, queue));
  },
  make: (data, state, links) => {
    for (const { item, ...kept } of data) {
      const queue = Object.assign(new QueueState(item), kept);
      const { retired } = kept;
      links.queues.set(item.id, queue);
      if (!retired) state.queues.set(item.id, queue);
    }
  },
  fill: () => undefined,
  derive: (state) => {
    for (const call of state.calls.values()) countIn(call, state.now);
    for (const queue of state.queues.values())
      queue.item.members.forEach((personId, order) => {
        const agent = state.agents.get(personId);
        if (agent !== undefined && !agent.retired) joinQueue(new Membership(agent, queue, order), state.now);
      });
  },
  invariants: (state) => [...state.queues.values()].flatMap((queue) => brokenQueue(state, queue)),
};

/** What the queue and the campaign count of a call in progress. */
function countIn(call: Call, now: number): void {
  const { queue } = call;
  if (queue === null) return;
  if (call.direction === 'inbound') call.stage = queue.stageOf(call.enteredAt, now);
  if (call.inAir) {
    call.campaign!.inAir++;
    if (call.reservedAgent === null) queue.inAir++;
    else queue.reservations++;
  }
  const outbound = call.direction === 'outbound';
  if (pausesBeforeRinging(call)) queue.pausing++;
  else if (call.activity.kind === 'waiting') (outbound ? queue.answered : queue.waitingList).push(call);
  if (call.activity.kind === 'offered' && !outbound) queue.offering++;
}

function brokenQueue(state: Readonly<State>, queue: QueueState): string[] {
  const { name } = queue.item;
  const broken: string[] = [];
  if (queue.waitingList.peek(queue.idle.firstStage) !== undefined)
    broken.push(`in ${name} a caller waits while a member is idle who fits`);
  if (queue.idleAutoAnswering > 0 && queue.answered.size > 0)
    broken.push(`in ${name} an answered contact waits while a member could take them at once`);
  const autoAnswers = queue.members.filter(
    (member) => member.firstReason < 0 && member.fitsFrom === 0 && member.agent.autoAnswers,
  );
  if (autoAnswers.length !== queue.idleAutoAnswering)
    broken.push(`${name} counts wrongly whose phone answers by itself`);
  const here = [...state.calls.values()].filter((call) => call.queue === queue);
  const air = here.filter((call) => call.inAir);
  if (air.filter((call) => call.reservedAgent === null).length !== queue.inAir)
    broken.push(`${name} counts calls in the air wrongly`);
  if (air.filter((call) => call.reservedAgent !== null).length !== queue.reservations)
    broken.push(`${name} counts reserved agents wrongly`);
  const offered = here.filter((call) => call.direction === 'inbound' && call.activity.kind === 'offered');
  if (offered.length !== queue.offering) broken.push(`${name} counts callers being offered wrongly`);
  if (here.filter(pausesBeforeRinging).length !== queue.pausing)
    broken.push(`${name} counts callers who wait to ring again wrongly`);
  for (const member of queue.members)
    if (member.firstReason !== member.reasonNow(state.now))
      broken.push(`${name} counts ${member.agent.person.name} for a reason that is over`);
  if (queue.members.filter((member) => member.firstReason < 0).length !== queue.idle.size)
    broken.push(`the idle members of ${name} are not those without a reason against`);
  const today = ({ answered }: Agent) => (queue.countsToday ? answeredSince(answered, queue.dayBegan) : 0);
  for (const { agent, firstReason, idleSince, callCount, answeredToday } of queue.members)
    if (
      firstReason < 0 &&
      (idleSince !== agent.idleSince || callCount !== agent.calls.length || answeredToday !== today(agent))
    )
      broken.push(`${agent.person.name} stands in the wrong place among the idle of ${name}`);
  reasonCodes.forEach((code, index) => {
    const counted = queue.members.filter((member) => member.firstReason === index).length;
    if (counted !== queue.reasonCounts[index]) broken.push(`${name} counts ${code} wrongly`);
  });
  const signedIn = queue.members.filter((member) => member.agent.presence !== 'signedOut').length;
  if (signedIn !== queue.signedIn) broken.push(`${name} counts who is signed in wrongly`);
  if (queue.members.filter(({ isPresent }) => isPresent).length !== queue.present)
    broken.push(`${name} counts who could come wrongly`);
  for (const call of queue.waitingList.values())
    if (call.stage !== queue.stageOf(call.enteredAt, state.now))
      broken.push(`call ${call.id} waits in ${name} at the wrong stage`);
  return broken;
}
