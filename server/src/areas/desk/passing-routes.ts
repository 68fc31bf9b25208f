import Joi from 'joi';
import type { Destination } from '@night-bell/core/model/destination';
import type { AgentDisplayState } from '@night-bell/core/distribute/candidates';
import { reasonsAgainstDirect } from '@night-bell/core/distribute/eligibility';
import { displayState } from '@night-bell/core/exchange/agents/display-state';
import type { State } from '@night-bell/core/exchange/kernel/state';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { workers } from './schemas.ts';
import { ownLeg } from './own-leg.ts';

const area = 'Desk';
const mostFound = 12;

/** Where a caller can be handed to. Queues and ring groups have no state and can always take one more. */
interface Way {
  kind: 'person' | 'queue' | 'ringGroup';
  id: string;
  name: string;
  extension: string | null;
  state: AgentDisplayState | null;
  canRing: boolean;
}

/** Sends callers from desk to desk: with a word first, without one, or back. */
export function passingRoutes({ live }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/desk/ways',
      area,
      summary:
        'Whom a caller can be handed to: colleagues, queues and ring groups by name or extension, those who can be rung first',
      who: workers,
      query: Joi.object<{ search: string }>({ search: Joi.string().trim().allow('').max(80).default('') }),
      reply: Joi.array().items(
        Joi.object<Way, true>({
          kind: Joi.string().valid('person', 'queue', 'ringGroup').required(),
          id: Joi.string().required(),
          name: Joi.string().required(),
          extension: Joi.string().allow(null).required(),
          state: Joi.string()
            .valid('available', 'ringing', 'talking', 'wrappingUp', 'away', 'signedOut')
            .allow(null)
            .required(),
          canRing: Joi.boolean().required(),
        }),
      ),
      errors: ['exchangeAway'],
      handle: async ({ query, caller }) =>
        waysFor(live.exchange.view(), query.search, signedIn(caller).personId, Date.now()),
    }),
    route({
      method: 'POST',
      path: '/api/desk/calls/:id/announce',
      area,
      summary:
        'Hold the caller and ring a colleague, to say who comes; hanging up then puts the caller through',
      who: workers,
      params: idParams,
      body: Joi.object<{ personId: string }>({ personId: Joi.string().guid().required() }),
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        const me = signedIn(caller);
        const { leg } = ownLeg(live, params.id, me);
        await live.command({ kind: 'consultationAsked', leg, personId: body.personId }, me.personId);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/desk/calls/:id/hand-over',
      area,
      summary: 'Send the caller on; to the colleague to whom they were announced, this puts them through',
      who: workers,
      params: idParams,
      body: Joi.object<{ to: Destination & { kind: 'person' | 'queue' | 'ringGroup' } }>({
        to: Joi.object({
          kind: Joi.string().valid('person', 'queue', 'ringGroup').required(),
          id: Joi.string().guid().required(),
        }).required(),
      }),
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        const me = signedIn(caller);
        const { leg } = ownLeg(live, params.id, me);
        await live.command({ kind: 'callTransferred', leg, to: body.to }, me.personId);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/desk/calls/:id/take-back',
      area,
      summary: 'Have the caller back who was being announced',
      who: workers,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        const { leg } = ownLeg(live, params.id, me);
        await live.command({ kind: 'callerRetrieved', leg }, me.personId);
        return null;
      },
    }),
  ];
}

/** A walk over everybody: some ten thousand names take a few milliseconds, and it is asked for by hand. */
function waysFor(state: Readonly<State>, search: string, ownId: string, now: number): Way[] {
  const part = search.toLowerCase();
  const fits = (name: string, extension: string | null) =>
    name.toLowerCase().includes(part) || (extension ?? '').startsWith(part);
  const people = [...state.agents.values()]
    .filter(({ person, retired }) => !retired && person.id !== ownId && person.extension !== null)
    .filter(({ person }) => fits(person.name, person.extension))
    .map((agent): Way => {
      const { id, name, extension } = agent.person;
      const canRing = reasonsAgainstDirect(agent).length === 0;
      return { kind: 'person', id, name, extension, state: displayState(agent, now).state, canRing };
    });
  const queues = [...state.queues.values()]
    .filter(({ item, retired }) => !retired && fits(item.name, item.extension))
    .map(({ item: { id, name, extension } }): Way => {
      return { kind: 'queue', id, name, extension, state: null, canRing: true };
    });
  const groups = [...state.ringGroups.values()]
    .filter(({ item }) => fits(item.name, item.extension))
    .map(({ item: { id, name, extension } }): Way => {
      return { kind: 'ringGroup', id, name, extension, state: null, canRing: true };
    });
  return [...people, ...queues, ...groups]
    .sort((one, other) => Number(other.canRing) - Number(one.canRing) || one.name.localeCompare(other.name))
    .slice(0, mostFound);
}
