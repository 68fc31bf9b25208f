import { reasonCodes } from '../distribute/eligibility.ts';
import type { Agent, Call, QueueState, State } from './state.ts';

/**
 * What must hold between events, as sentences about what does not. Empty when all is well. Costs a walk over
 * the whole state: for tests, and for a host that has just rebuilt itself.
 */
export function brokenInvariants(state: Readonly<State>): string[] {
  return [
    ...[...state.agents.values()].flatMap((agent) => brokenAgent(agent)),
    ...[...state.queues.values()].flatMap((queue) => brokenQueue(queue)),
    ...[...state.calls.values()].flatMap((call) => brokenCall(call)),
    ...(state.todo.length === 0 ? [] : ['something is left to do between events']),
    ...state.timers
      .values()
      .filter((timer) => timer.at < state.now)
      .map((timer) => `a ${timer.kind} timer is overdue`),
  ];
}

function brokenAgent(agent: Agent): string[] {
  const name = agent.person.name;
  const broken: string[] = [];
  const connected = agent.calls.flatMap((call) =>
    call.legs.filter((leg) => leg.personId === agent.person.id && leg.state === 'connected'),
  );
  if (agent.calls.length > agent.person.callLimit) broken.push(`${name} is above their limit of calls`);
  if (connected.length > 1) broken.push(`${name} talks on two calls`);
  if (agent.calls.length > 0 && connected.length === 0) broken.push(`${name} has only held calls`);
  if (agent.ringing !== null && agent.ringing.ringingAgent !== agent)
    broken.push(`${name} rings for a call that does not know`);
  if (agent.wrapUpUntil > 0 !== (agent.wrapUpTimer !== null)) broken.push(`${name} wraps up without a timer`);
  return broken;
}

function brokenQueue(queue: QueueState): string[] {
  const name = queue.item.name;
  const broken: string[] = [];
  if (queue.idle.size > 0 && queue.waiting.size > 0)
    broken.push(`in ${name} a caller waits while a member is idle`);
  if (queue.members.filter((member) => member.agent.firstReason < 0).length !== queue.idle.size) {
    broken.push(`the idle members of ${name} are not those without a reason against`);
  }
  reasonCodes.forEach((code, index) => {
    const counted = queue.members.filter((member) => member.agent.firstReason === index).length;
    if (counted !== queue.reasonCounts[index]) broken.push(`${name} counts ${code} wrongly`);
  });
  const signedIn = queue.members.filter((member) => member.agent.presence !== 'signedOut').length;
  if (signedIn !== queue.signedIn) broken.push(`${name} counts who is signed in wrongly`);
  return broken;
}

function brokenCall(call: Call): string[] {
  const broken: string[] = [];
  const ringing = call.legs.filter((leg) => leg.state === 'ringing').length;
  if (call.stage === 'ended' || call.stage === 'routing')
    broken.push(`call ${call.id} rests in stage ${call.stage}`);
  if ((call.stage === 'ringing') !== (ringing === 1))
    broken.push(`call ${call.id} rings ${ringing} phones while ${call.stage}`);
  if ((call.stage === 'talking') !== (call.bridge !== null))
    broken.push(`call ${call.id} is ${call.stage}, bridge or not`);
  if ((call.stage === 'waiting') !== call.heapIndex >= 0)
    broken.push(`call ${call.id} waits outside its queue`);
  if (call.stage === 'waiting' && call.queue?.signedIn === 0 && call.queue.item.whenNobody !== null) {
    broken.push(`call ${call.id} waits where nobody is signed in`);
  }
  return broken;
}
