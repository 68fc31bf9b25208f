import Joi from 'joi';
import { bots, botTrial } from '@night-bell/core/contracts/bots';
import { objectSchema } from '@night-bell/core/contracts/item';
import { botFaults } from '@night-bell/core/model/bots';
import { operators } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { Problem } from '../../http/problems.ts';
import { idParams, route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { askBot } from './ask-bot.ts';
import { botDoor, botItem, setBotKey } from './store.ts';

export const botAnswer = Joi.object({
  say: Joi.string().allow('').required(),
  then: Joi.string().required(),
  facts: Joi.object().pattern(Joi.string(), Joi.string().allow('')).required(),
  language: Joi.string().allow(null).required(),
});

export function botRoutes(services: Services): Route[] {
  const { database, seal, outgoing } = services;
  return [
    ...itemRoutes(services, botItem, {
      written: async (trx, id, { key }) => {
        if (key !== undefined) await setBotKey(trx, seal, id, key);
      },
    }),
    route({
      method: 'POST',
      path: `${bots.path}/:id/try`,
      area: bots.area,
      summary: 'Ask the bot as if a caller had said something; what it says, or why nothing came of it',
      who: operators,
      perMinute: 60,
      params: idParams,
      body: objectSchema(botTrial),
      reply: Joi.object({
        answer: botAnswer.allow(null).required(),
        why: Joi.string()
          .valid(...botFaults)
          .allow(null)
          .required(),
      }),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body }) => {
        const { limitSeconds } = await botItem.get(database, params.id);
        const door = await botDoor(database, seal, params.id);
        if (door === null) throw new Problem('notNow', 'This bot is deactivated. Reactivate it first.');
        return askBot(outgoing, door, {
          ...{ callId: 'trial', turn: body.turn, said: body.said, language: body.language },
          ...{ from: '', to: '', found: body.facts, withinSeconds: limitSeconds },
        });
      },
    }),
  ];
}
