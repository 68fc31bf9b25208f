import { firstReasonIndex } from '../../distribute/eligibility.ts';
import { isForHelp, offerOf } from '../calls/resting.ts';
import {
  asIs,
  callId,
  type CodecsOf,
  copied,
  derived,
  listOf,
  loadFields,
  nullable,
  type SavedBy,
  saveFields,
  timers,
} from '../kernel/codecs.ts';
import type { Slice } from '../kernel/slice.ts';
import type { State } from '../kernel/state.ts';
import { timerOf } from '../kernel/timers.ts';
import { Agent, type Phone } from './agent.ts';
import { refreshPhoneFacts } from './phones.ts';

const codecs = {
  person: asIs<Agent['person']>(),
  revision: asIs<number>(),
  retired: asIs<boolean>(),
  presence: asIs<Agent['presence']>(),
  awayReason: asIs<string | null>(),
  presenceSince: asIs<number>(),
  idleSince: asIs<number>(),
  phone: derived,
  phones: derived,
  chosenPhoneId: asIs<string | null>(),
  persistentLine: nullable(callId),
  reservedFor: derived,
  ringing: derived,
  ringingSince: derived,
  calls: listOf(callId),
  talkingSince: asIs<number>(),
  wrapUpUntil: derived,
  wrapUpSince: asIs<number>(),
  backOffUntil: derived,
  answered: asIs<Agent['answered']>(),
  openTexts: asIs<number>(),
  misses: asIs<number>(),
  memberships: derived,
  firstReason: derived,
  timers,
  ringingCallId: derived,
  reservedForCallId: derived,
  autoAnswers: derived,
  callCount: derived,
  callLimit: derived,
} satisfies CodecsOf<Agent>;

export type SavedAgent = SavedBy<typeof codecs>;

const phoneCodecs = {
  item: asIs<Phone['item']>(),
  order: derived,
  registration: asIs<Phone['registration']>(),
  since: asIs<number>(),
  why: asIs<string>(),
  address: copied<string | null>(),
} satisfies CodecsOf<Phone>;

export interface Data {
  agents: SavedAgent[];
  phones: SavedBy<typeof phoneCodecs>[];
}

export const agentsSlice: Slice<Data> = {
  name: 'agents',
  version: 3,
  migrate: {
    1: ({ agents, phones }: Data) => ({
      agents: agents.map((agent) => ({ ...agent, answered: [] })),
      phones,
    }),
    2: ({ agents, phones }: Data) => ({
      agents: agents.map((agent) => ({ ...agent, openTexts: 0 })),
      phones,
    }),
  },
  save: (state) => ({
    agents: [...state.agents.values()].map((agent) => saveFields(codecs, agent)),
    phones: [...state.phones.values()].map((phone) => saveFields(phoneCodecs, phone)),
  }),
  make: ({ agents, phones }, state) => {
    for (const { person } of agents) state.agents.set(person.id, new Agent(person));
    for (const saved of phones) state.phones.set(saved.item.id, { ...saved, order: state.phoneCount++ });
  },
  fill: ({ agents }, state, links) => {
    for (const saved of agents) loadFields(codecs, state.agents.get(saved.person.id)!, saved, links);
  },
  derive: (state) => {
    for (const phone of state.phones.values()) state.agents.get(phone.item.personId)?.phones.push(phone);
    deriveTrunkAgents(state);
    for (const agent of state.agents.values()) {
      agent.wrapUpUntil = timerOf(agent, 'wrapUp')?.at ?? 0;
      agent.backOffUntil = timerOf(agent, 'backOff')?.at ?? 0;
      refreshPhoneFacts(state, agent);
      agent.firstReason = firstReasonIndex(agent, state.now);
      if (agent.presence !== 'signedOut') state.signedIn++;
    }
  },
  invariants: (state) => [
    ...[...state.agents.values()].flatMap(brokenAgent),
    ...([...state.agents.values()].filter(({ presence }) => presence !== 'signedOut').length ===
    state.signedIn
      ? []
      : ['the seats in use are counted wrongly']),
  ],
};

/** Who is reached over which trunk. */
export function deriveTrunkAgents(state: State): void {
  for (const trunk of state.trunks.values()) trunk.agents.clear();
  for (const phone of state.phones.values()) {
    const agent = state.agents.get(phone.item.personId);
    if (phone.item.kind === 'outside' && agent !== undefined)
      state.trunks.get(phone.item.trunkId ?? '')?.agents.add(agent);
  }
}

function brokenAgent(agent: Agent): string[] {
  const name = agent.person.name;
  const broken: string[] = [];
  const connected = agent.calls.flatMap((call) =>
    call.legs.filter((leg) => leg.personId === agent.person.id && leg.state === 'connected'),
  );
  // A call for help goes out above any limit.
  const counted = agent.calls.filter((call) => !isForHelp(call));
  if (counted.length > agent.person.callLimit) broken.push(`${name} is above their limit of calls`);
  if (connected.length > 1) broken.push(`${name} talks on two calls`);
  if (agent.calls.length > 0 && connected.length === 0) broken.push(`${name} has only held calls`);
  const { ringing } = agent;
  if (ringing !== null && offerOf(ringing)?.parts.some((part) => part.agent === agent) !== true)
    broken.push(`${name} rings for a call that does not know`);
  if (agent.reservedFor !== null && agent.reservedFor.reservedAgent !== agent)
    broken.push(`${name} is reserved for a call that does not know`);
  if (agent.persistentLine !== null && agent.persistentLine.activity.kind !== 'lineHeld')
    broken.push(`${name} has a line that is not open`);
  if (agent.wrapUpUntil !== (timerOf(agent, 'wrapUp')?.at ?? 0))
    broken.push(`${name} wraps up without a timer`);
  if (agent.backOffUntil !== (timerOf(agent, 'backOff')?.at ?? 0))
    broken.push(`${name} backs off without a timer`);
  return broken;
}
