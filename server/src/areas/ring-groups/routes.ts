import Joi from 'joi';
import {
  type GroupMember,
  groupMember,
  type OwnGroup,
  ownGroup,
  ringGroups,
} from '@night-bell/core/contracts/ring-groups';
import { groupMembersPath, ownGroupsPath } from '@night-bell/core/model/api-paths';
import { reasonsAgainstDirect } from '@night-bell/core/distribute/eligibility';
import { groupsOf, peopleOfGroup } from '@night-bell/core/exchange/groups/members';
import type { RingGroup } from '@night-bell/core/exchange/groups/ring-group';
import { operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { workers } from '../desk/schemas.ts';
import { checkDirects } from '../people/directing.ts';
import { ringGroupItem } from './store.ts';

const mostShown = 100;
const takesPart = Joi.object<{ takesPart: boolean }>({ takesPart: Joi.boolean().strict().required() });

/** Ring groups, who takes part in them, and the groups of whoever sits at a desk. */
export function ringGroupRoutes(services: Services): Route[] {
  const { live } = services;
  const { area } = ringGroups;

  const find = (id: string): RingGroup => {
    const group = live.exchange.view().ringGroups.get(id);
    if (group === undefined)
      throw new Problem(
        'notFound',
        'The exchange knows no such ring group. One that is deactivated rings nobody.',
      );
    return group;
  };

  return [
    ...itemRoutes(services, ringGroupItem),
    route({
      method: 'GET',
      path: groupMembersPath,
      area,
      summary:
        'The people of a ring group, teams by their people, at most a hundred, and who of them takes part now',
      who: readers,
      params: idParams,
      reply: Joi.array().items(groupMember.schema.optional()),
      errors: ['notFound', 'exchangeAway'],
      handle: async ({ params }) => {
        const group = find(params.id);
        const people = peopleOfGroup(live.exchange.view(), group);
        // Of more than one looks through, those who sit out are seen all the same.
        const out = (agent: (typeof people)[number]) => group.sitOut.includes(agent.person.id);
        const some =
          people.length <= mostShown
            ? people
            : [...people.filter(out), ...people.filter((each) => !out(each))];
        return some.slice(0, mostShown).map((agent): GroupMember => {
          const { id: personId, name } = agent.person;
          const canRing = reasonsAgainstDirect(agent).length === 0;
          return { personId, name, takesPart: !group.sitOut.includes(personId), canRing };
        });
      },
    }),
    route({
      method: 'PUT',
      path: `${groupMembersPath}/:personId`,
      area,
      summary:
        'Let a member of a ring group take part in it, or sit out; supervisors for the teams they look after',
      who: operators,
      params: Joi.object<{ id: string; personId: string }>({
        id: Joi.string().guid().required(),
        personId: Joi.string().guid().required(),
      }),
      body: takesPart,
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        const { id: groupId, personId } = params;
        const me = signedIn(caller);
        await checkDirects(services.database, me, personId);
        await live.command({ kind: 'groupPresence', groupId, personId, ...body }, me.personId);
        return null;
      },
    }),
    route({
      method: 'GET',
      path: ownGroupsPath,
      area: 'Desk',
      summary: 'The ring groups one is a member of, and whether one takes part',
      who: workers,
      reply: Joi.array().items(ownGroup.schema.optional()),
      errors: ['exchangeAway'],
      handle: async ({ caller }) => {
        const { personId } = signedIn(caller);
        return groupsOf(live.exchange.view(), personId).map(({ item: { id, name }, sitOut }): OwnGroup => ({
          id,
          name,
          takesPart: !sitOut.includes(personId),
        }));
      },
    }),
    route({
      method: 'PUT',
      path: `${ownGroupsPath}/:id`,
      area: 'Desk',
      summary: 'Take part in a ring group one is a member of, or sit out for the time being',
      who: workers,
      params: idParams,
      body: takesPart,
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        const { personId } = signedIn(caller);
        await live.command({ kind: 'groupPresence', groupId: params.id, personId, ...body }, personId);
        return null;
      },
    }),
  ];
}
