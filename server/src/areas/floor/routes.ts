import Joi from 'joi';
import { mayPause } from '@night-bell/core/model/recording';
import { operators, readers } from '@night-bell/core/model/roles';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import { liveView } from '../../live/view.ts';
import type { Services } from '../../services.ts';
import { type EmergencyCall, emergencyCalls, markSeen } from './emergencies.ts';

const time = Joi.number();

const agent = Joi.object({
  personId: Joi.string().required(),
  name: Joi.string().required(),
  teamId: Joi.string().allow(null).required(),
  state: Joi.string().valid('available', 'ringing', 'talking', 'wrappingUp', 'away', 'signedOut').required(),
  since: time.required(),
  awayReason: Joi.string().allow(null).required(),
  wrapUpUntil: time.allow(null).required(),
  backOffUntil: time.allow(null).required(),
  phone: Joi.string().valid('registered', 'unregistered', 'refused', 'none', 'outside').required(),
  reachedBy: Joi.string()
    .valid('softphone', 'homeSoftphone', 'desk', 'cordless', 'browser', 'outside', 'openLine')
    .allow(null)
    .required(),
  chosenPhoneId: Joi.string().allow(null).required(),
  line: Joi.string().valid('open', 'asked').allow(null).required(),
  phoneSince: time.allow(null).required(),
  phoneWhy: Joi.string().allow('').required(),
  phoneAddress: Joi.string().allow(null, '').required(),
  eligible: Joi.boolean().required(),
  callIds: Joi.array().items(Joi.string()).required(),
});

const queue = Joi.object({
  queueId: Joi.string().required(),
  waiting: Joi.number().integer().required(),
  offering: Joi.number().integer().required(),
  longestSince: time.allow(null).required(),
  signedIn: Joi.number().integer().required(),
  idle: Joi.number().integer().required(),
  callBacks: Joi.number().integer().required(),
  next: Joi.array().items(Joi.string()).required(),
});

const call = Joi.object({
  callId: Joi.string().required(),
  shows: Joi.array().items(Joi.string()).required(),
  direction: Joi.string().valid('inbound', 'outbound', 'dialled', 'line').required(),
  to: Joi.string().required(),
  from: Joi.string().required(),
  callerName: Joi.string().allow(null).required(),
  stage: Joi.string()
    .valid(
      ...['routing', 'waiting', 'ringing', 'talking', 'voicemail'],
      ...[
        'dialling',
        'greeting',
        'announcement',
        'held',
        'forwarding',
        'forwarded',
        'roomDoor',
        'inPlan',
        'inRoom',
        'fax',
        'ended',
      ],
    )
    .required(),
  since: time.required(),
  arrivedAt: time.required(),
  answeredAt: time.allow(null).required(),
  numberId: Joi.string().allow(null).required(),
  queueId: Joi.string().allow(null).required(),
  ringGroupId: Joi.string().allow(null).required(),
  campaignId: Joi.string().allow(null).required(),
  contactId: Joi.string().allow(null).required(),
  recordId: Joi.string().allow(null).required(),
  sourceId: Joi.string().allow(null).required(),
  trunkId: Joi.string().allow(null).required(),
  personId: Joi.string().allow(null).required(),
  leg: Joi.string().allow(null).required(),
  phoneId: Joi.string().allow(null).required(),
  consulted: Joi.object({
    personId: Joi.string().required(),
    name: Joi.string().required(),
    byName: Joi.string().allow('').required(),
    rings: Joi.boolean().required(),
    since: time.required(),
    leg: Joi.string().required(),
    phoneId: Joi.string().allow(null).required(),
  })
    .allow(null)
    .required(),
  offers: Joi.number().integer().required(),
  recording: Joi.object({
    state: Joi.string().valid('on', 'paused', 'held').required(),
    mayPause: Joi.string()
      .valid(...mayPause)
      .required(),
  })
    .allow(null)
    .required(),
});

const trunk = Joi.object({ trunkId: Joi.string().required(), inUse: Joi.number().integer().required() });

const campaign = Joi.object({
  campaignId: Joi.string().required(),
  inAir: Joi.number().integer().required(),
  buffered: Joi.number().integer().required(),
  exhausted: Joi.boolean().required(),
  today: Joi.object({
    answered: Joi.number().integer().required(),
    abandoned: Joi.number().integer().required(),
  }).required(),
  rateToday: Joi.number().required(),
  rate: Joi.number().required(),
  pace: Joi.object({
    ratio: Joi.number().required(),
    reserve: Joi.boolean().required(),
    why: Joi.string().valid('ratio', 'oneEach', 'atLimit').required(),
  }).required(),
  free: Joi.number().integer().required(),
});

export function floorRoutes({ database, live }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/floor',
      area: 'Floor',
      summary: 'Agents, queues and calls as they are now; pages follow /api/live instead',
      who: readers,
      reply: Joi.object({
        at: time.required(),
        agents: Joi.array().items(agent).required(),
        queues: Joi.array().items(queue).required(),
        calls: Joi.array().items(call).required(),
        trunks: Joi.array().items(trunk).required(),
        campaigns: Joi.array().items(campaign).required(),
      }),
      errors: ['exchangeAway'],
      handle: () => Promise.resolve(liveView(live.exchange.view())),
    }),
    route({
      method: 'GET',
      path: '/api/emergency-calls',
      area: 'Floor',
      summary: 'Calls for help of the last day, with the address that was given',
      who: readers,
      reply: Joi.array().items(
        Joi.object<EmergencyCall, true>({
          callId: Joi.string().required(),
          personName: Joi.string().required(),
          extension: Joi.string().allow(null).required(),
          digits: Joi.string().required(),
          address: Joi.string().allow(null).required(),
          at: Joi.string().required(),
          seenBy: Joi.string().allow(null).required(),
        }),
      ),
      errors: [],
      handle: () => emergencyCalls(database),
    }),
    route({
      method: 'POST',
      path: '/api/emergency-calls/:id/seen',
      area: 'Floor',
      summary: 'Somebody has taken notice of a call for help',
      who: operators,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        await markSeen(database, params.id, signedIn(caller).personId);
        return null;
      },
    }),
  ];
}
