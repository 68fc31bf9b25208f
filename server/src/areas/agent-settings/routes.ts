import Joi from 'joi';
import { type AgentSettings, agentSettings } from '@night-bell/core/model/agent-settings.schema';
import { editors, roles } from '@night-bell/core/model/roles';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { readAgentSettings, writeAgentSettings } from './store.ts';

const area = 'Agent settings';

const settingsView = Joi.object<AgentSettings & { seatsUsed: number }, true>({
  seats: Joi.number().integer().allow(null).required(),
  awayReasons: Joi.array().items(Joi.string()).required(),
  seatsUsed: Joi.number().integer().required(),
});

export function agentSettingsRoutes({ database, live }: Services): Route[] {
  const view = async () => ({
    ...(await readAgentSettings(database)),
    seatsUsed: live.ready ? live.exchange.view().signedIn : 0,
  });
  return [
    route({
      method: 'GET',
      path: '/api/agent-settings',
      area,
      summary: 'Rented seats and how many are used, and the reasons to be away',
      who: roles,
      reply: settingsView,
      errors: [],
      handle: view,
    }),
    route({
      method: 'PUT',
      path: '/api/agent-settings',
      area,
      summary: 'Change the seats and the reasons to be away',
      who: editors,
      body: agentSettings,
      reply: settingsView,
      errors: [],
      handle: async ({ body }) => {
        await database.transaction((trx) => writeAgentSettings(trx, body));
        return view();
      },
    }),
  ];
}
