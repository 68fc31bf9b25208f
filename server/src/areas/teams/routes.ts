import Joi from 'joi';
import { emergencyAddress } from '@night-bell/core/model/emergency-address.schema';
import { name } from '@night-bell/core/model/fields.schema';
import { editors, readers } from '@night-bell/core/model/roles';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { addressView } from '../phones/schemas.ts';
import {
  changeTeam,
  createTeam,
  getTeam,
  listTeams,
  retireTeam,
  type TeamDraft,
  type TeamView,
} from './store.ts';

const area = 'Teams';

const teamView = Joi.object<TeamView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  name: Joi.string().required(),
  people: Joi.number().integer().required(),
  emergencyAddress: addressView.allow(null).required(),
});

const teamDraft = Joi.object<TeamDraft>({ name: name.required() });
const teamChange = Joi.object<TeamDraft>({
  name: name.required(),
  // A rename that says nothing of it must not take the address away.
  emergencyAddress: emergencyAddress.required(),
});

export function teamRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/teams',
      area,
      summary: 'All teams with the number of their people',
      who: readers,
      reply: Joi.array().items(teamView),
      errors: [],
      handle: () => listTeams(database),
    }),
    route({
      method: 'POST',
      path: '/api/teams',
      area,
      summary: 'Make a team',
      who: editors,
      body: teamDraft,
      reply: teamView,
      errors: ['taken'],
      handle: async ({ body, caller }) => {
        const id = await database.transaction((trx) =>
          createTeam(trx, body.name, authorOf(signedIn(caller).personId)),
        );
        return getTeam(database, id);
      },
    }),
    route({
      method: 'PUT',
      path: '/api/teams/:id',
      area,
      summary: 'Rename a team, or say where help is sent',
      who: editors,
      params: idParams,
      body: teamChange,
      ifMatch: true,
      reply: teamView,
      errors: ['notFound', 'taken', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, body, version, caller }) => {
        await database.transaction((trx) =>
          changeTeam(trx, params.id, version, body, authorOf(signedIn(caller).personId)),
        );
        return getTeam(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/teams/:id/retire',
      area,
      summary: 'Deactivate a team without people',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: nothing.allow(null),
      errors: ['notFound', 'inUse', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        await database.transaction((trx) =>
          retireTeam(trx, params.id, version, authorOf(signedIn(caller).personId)),
        );
        return null;
      },
    }),
  ];
}
