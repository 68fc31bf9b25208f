import Joi from 'joi';
import { type HarbourMood, harbourMoods } from '@night-bell/core/devices/protocol';
import { publicNumber } from '@night-bell/core/model/fields.schema';
import { textBody } from '@night-bell/core/model/texts.schema';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { nothing, route, type Route } from '../../http/route.ts';
import type { Gateways } from '../../live/gateways.ts';
import type { StandInState } from '../../live/stand-in-door.ts';
import { tidyCode } from '../../security/secret-box.ts';
import { dialled } from '../test-calls/routes.ts';

const area = 'Stand-ins';

const standInView = Joi.object<StandInState>({
  connected: Joi.boolean().required(),
  traffic: Joi.object({ on: Joi.boolean().required(), speed: Joi.number().required() }).required(),
  phones: Joi.number().integer().required(),
  frontDesk: Joi.array().items(Joi.string()).required(),
  letters: Joi.array()
    .items(
      Joi.object({
        to: Joi.string().allow('').required(),
        subject: Joi.string().allow('').required(),
        text: Joi.string().allow('').required(),
        at: Joi.number().integer().required(),
      }),
    )
    .required(),
  lamps: Joi.array()
    .items(Joi.object({ account: Joi.string().required(), newMessages: Joi.number().integer().required() }))
    .required(),
});

function away(): Problem {
  return new Problem(
    'notNow',
    'The stand-ins are not connected. They start with Night Bell and come back by themselves.',
  );
}

export function standInRoutes(gateways: Gateways): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/stand-ins',
      area,
      summary: 'Whether the stand-ins are there, and whether they make calls by themselves',
      who: readers,
      reply: standInView,
      errors: [],
      handle: () => Promise.resolve(gateways.standIns.state),
    }),
    route({
      method: 'PUT',
      path: '/api/stand-ins/traffic',
      area,
      summary: 'Switch the stand-in callers on or off, and how fast they call',
      who: operators,
      body: Joi.object<{ on: boolean; speed: number }>({
        on: Joi.boolean().required(),
        speed: Joi.number()
          .min(0.1)
          .max(60)
          .required()
          .messages({ 'number.base': 'Speed is 0.1 to 60 times the usual.' }),
      }),
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: ({ body }) => {
        if (!gateways.standIns.tell({ kind: 'traffic', ...body })) throw away();
        return Promise.resolve(null);
      },
    }),
    route({
      method: 'PUT',
      path: '/api/stand-ins/harbour-book',
      area,
      summary:
        'Have the stand-in customer system answer well, too slowly, with a fault, never, or without end',
      who: operators,
      body: Joi.object<{ mood: HarbourMood }>({
        mood: Joi.string()
          .valid(...harbourMoods)
          .required(),
      }),
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: ({ body }) => {
        if (!gateways.standIns.tell({ kind: 'mood', mood: body.mood })) throw away();
        return Promise.resolve(null);
      },
    }),
    route({
      method: 'POST',
      path: '/api/stand-ins/calls',
      area,
      summary: 'Have a stand-in caller make a call for real',
      who: operators,
      body: Joi.object<{ to: string; from: string }>({
        to: dialled.required(),
        from: publicNumber.required(),
      }),
      reply: Joi.object({ callId: Joi.string().required() }),
      errors: ['notNow'],
      handle: async ({ body }) => {
        const placed = gateways.standIns.placeCall(body.to, body.from);
        if (placed === null) throw away();
        const callId = await placed.catch(() => {
          throw away();
        });
        return { callId };
      },
    }),
    route({
      method: 'POST',
      path: '/api/stand-ins/texts',
      area,
      summary: 'Have somebody outside text a number of ours',
      who: operators,
      perMinute: 60,
      body: Joi.object<{ to: string; from: string; body: string }>({
        to: publicNumber.required(),
        from: publicNumber.required(),
        body: textBody,
      }),
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: ({ body }) => {
        if (!gateways.standIns.tell({ kind: 'placeText', ...body })) throw away();
        return Promise.resolve(null);
      },
    }),
    route({
      method: 'POST',
      path: '/api/stand-ins/dialled-calls',
      area,
      summary: 'Have a stand-in phone dial, as its person would',
      who: operators,
      body: Joi.object<{ account: string; to: string }>({
        account: Joi.string().max(80).required(),
        to: Joi.string()
          .trim()
          .pattern(/^[\d*#+]{1,32}$/)
          .required()
          .messages({
            'string.pattern.base': 'Dial digits, *, # and +.',
            'string.empty': 'Type what is dialled.',
          }),
      }),
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: ({ body }) => {
        if (gateways.standIns.plays(body.account) === null)
          throw new Problem('notNow', 'No stand-in plays this phone. Hand it a set-up first.');
        if (!gateways.standIns.tell({ kind: 'dialOn', device: body.account, to: body.to })) throw away();
        return Promise.resolve(null);
      },
    }),
    route({
      method: 'POST',
      path: '/api/stand-ins/enrolments',
      area,
      summary: 'Hand an enrolment code to a stand-in phone, which fetches its set-up and registers',
      who: editors,
      body: Joi.object<{ code: string }>({ code: Joi.string().max(40).required() }),
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: ({ body }) => {
        if (!gateways.standIns.tell({ kind: 'enrol', code: tidyCode(body.code) })) throw away();
        return Promise.resolve(null);
      },
    }),
  ];
}
