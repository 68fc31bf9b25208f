import { reasonCodes } from '../distribute/eligibility.ts';
import type { Agent, Call, Campaign, QueueState, State, Trunk } from './state.ts';

/**
 * What must hold between events, as sentences about what does not. Empty when all is well. Costs a walk over
 * the whole state: for tests, and for a host that has just rebuilt itself.
 */
export function brokenInvariants(state: Readonly<State>): string[] {
  return [
    ...[...state.agents.values()].flatMap((agent) => brokenAgent(agent)),
    ...[...state.queues.values()].flatMap((queue) => brokenQueue(state, queue)),
    ...[...state.calls.values()].flatMap((call) => brokenCall(call)),
    ...[...state.trunks.values()].flatMap((trunk) => brokenTrunk(state, trunk)),
    ...[...state.campaigns.values()].flatMap((campaign) => brokenCampaign(state, campaign)),
    ...brokenSeats(state),
    ...(state.todo.length === 0 ? [] : ['something is left to do between events']),
    ...state.timers
      .values()
      .filter((timer) => timer.at < state.now)
      .map((timer) => `a ${timer.kind} timer is overdue`),
  ];
}

function brokenSeats(state: Readonly<State>): string[] {
  const signedIn = [...state.agents.values()].filter((agent) => agent.presence !== 'signedOut').length;
  return signedIn === state.signedIn ? [] : ['the seats in use are counted wrongly'];
}

function brokenAgent(agent: Agent): string[] {
  const name = agent.person.name;
  const broken: string[] = [];
  const connected = agent.calls.flatMap((call) =>
    call.legs.filter((leg) => leg.personId === agent.person.id && leg.state === 'connected'),
  );
  // A call for help goes out above any limit.
  const counted = agent.calls.filter((call) => call.outward?.emergency !== true);
  if (counted.length > agent.person.callLimit) broken.push(`${name} is above their limit of calls`);
  if (connected.length > 1) broken.push(`${name} talks on two calls`);
  if (agent.calls.length > 0 && connected.length === 0) broken.push(`${name} has only held calls`);
  if (agent.ringing !== null && agent.ringing.ringingAgent !== agent)
    broken.push(`${name} rings for a call that does not know`);
  if (agent.keptFor !== null && agent.keptFor.keptAgent !== agent)
    broken.push(`${name} is kept for a call that does not know`);
  if (agent.line !== null && agent.line.stage !== 'held') broken.push(`${name} has a line that is not open`);
  if (agent.wrapUpUntil > 0 !== (agent.wrapUpTimer !== null)) broken.push(`${name} wraps up without a timer`);
  return broken;
}

function brokenQueue(state: Readonly<State>, queue: QueueState): string[] {
  const name = queue.item.name;
  const broken: string[] = [];
  if (queue.idle.size > 0 && queue.waiting.size > 0)
    broken.push(`in ${name} a caller waits while a member is idle`);
  if (queue.idleAutomatic > 0 && queue.answered.size > 0)
    broken.push(`in ${name} an answered contact waits while a member could take them at once`);
  const automatic = queue.members.filter((member) => member.firstReason < 0 && member.agent.automatic);
  if (automatic.length !== queue.idleAutomatic) broken.push(`${name} counts automatic members wrongly`);
  const air = [...state.calls.values()].filter((call) => call.queue === queue && call.inAir);
  if (air.filter((call) => call.keptAgent === null).length !== queue.inAir)
    broken.push(`${name} counts calls in the air wrongly`);
  if (air.filter((call) => call.keptAgent !== null).length !== queue.keeping)
    broken.push(`${name} counts kept agents wrongly`);
  for (const member of queue.members)
    if (member.firstReason !== member.reasonNow())
      broken.push(`${name} counts ${member.agent.person.name} for a reason that is over`);
  if (queue.members.filter((member) => member.firstReason < 0).length !== queue.idle.size) {
    broken.push(`the idle members of ${name} are not those without a reason against`);
  }
  reasonCodes.forEach((code, index) => {
    const counted = queue.members.filter((member) => member.firstReason === index).length;
    if (counted !== queue.reasonCounts[index]) broken.push(`${name} counts ${code} wrongly`);
  });
  const signedIn = queue.members.filter((member) => member.agent.presence !== 'signedOut').length;
  if (signedIn !== queue.signedIn) broken.push(`${name} counts who is signed in wrongly`);
  return broken;
}

function brokenTrunk(state: Readonly<State>, trunk: Trunk): string[] {
  const legs = [...state.calls.values()].flatMap((call) => call.legs);
  const used = legs.filter((leg) => leg.trunkId === trunk.item.id);
  const broken: string[] = [];
  if (used.length !== trunk.inUse) broken.push(`${trunk.item.name} counts its channels wrongly`);
  // Who comes in was put through by the provider; the exchange itself never dials beyond the limit.
  // Who calls for help goes out all the same.
  const help = new Set(
    [...state.calls.values()].filter((call) => call.outward?.emergency === true).flatMap((call) => call.legs),
  );
  const dialled = used.filter((leg) => leg.party !== 'caller' && !help.has(leg)).length;
  if (dialled > trunk.item.channels)
    broken.push(`${trunk.item.name} carries more calls than it has channels`);
  return broken;
}

function brokenCampaign(state: Readonly<State>, campaign: Campaign): string[] {
  const name = campaign.item.name;
  const calls = [...state.calls.values()].filter((call) => call.campaign === campaign);
  const broken: string[] = [];
  if (calls.filter((call) => call.inAir).length !== campaign.inAir)
    broken.push(`${name} counts its calls in the air wrongly`);
  if (!campaign.item.running && campaign.buffer.length > 0)
    broken.push(`${name} is paused and keeps contacts`);
  const contacts = [...calls.map((call) => call.contact!), ...campaign.buffer].map((each) => each.contactId);
  if (new Set(contacts).size !== contacts.length) broken.push(`${name} has a contact twice`);
  return broken;
}

function brokenCall(call: Call): string[] {
  const broken: string[] = [];
  const rings = (state: string) => state === 'ringing' || state === 'confirming';
  const ringing = call.legs.filter((leg) => leg.party === 'agent' && rings(leg.state)).length;
  if (call.stage === 'ended' || call.stage === 'routing')
    broken.push(`call ${call.id} rests in stage ${call.stage}`);
  const announces = call.announcedTo !== null;
  if ((call.stage === 'ringing' || (announces && call.ringingAgent !== null)) !== (ringing === 1))
    broken.push(`call ${call.id} rings ${ringing} phones while ${call.stage}`);
  // Who dialled out themselves is held by their own other calls.
  if (call.direction === 'inbound' && announces !== (call.legs[0]?.state === 'held'))
    broken.push(`call ${call.id} holds its caller, announced or not`);
  if (announces && call.announcedTo !== call.ringingAgent && !call.announcedTo!.calls.includes(call))
    broken.push(`call ${call.id} is announced to somebody who does not know`);
  const bridged = (call.stage === 'talking' && call.ringingAgent === null) || call.stage === 'forwarded';
  if (bridged !== (call.bridge !== null)) broken.push(`call ${call.id} is ${call.stage}, bridge or not`);
  if ((call.stage === 'waiting') !== call.heapIndex >= 0)
    broken.push(`call ${call.id} waits outside its queue`);
  const inbound = call.direction === 'inbound';
  if (
    inbound &&
    call.stage === 'waiting' &&
    call.queue?.signedIn === 0 &&
    call.queue.item.whenNobody !== null
  )
    broken.push(`call ${call.id} waits where nobody is signed in`);
  const answered = call.direction === 'outbound' && (call.stage === 'waiting' || call.stage === 'ringing');
  if (answered !== (call.connectByTimer !== null))
    broken.push(`call ${call.id} has a contact on the line and no time by which an agent must come`);
  return broken;
}
