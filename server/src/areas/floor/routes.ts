import Joi from 'joi';
import { readers } from '@night-bell/core/model/roles';
import { route, type Route } from '../../http/route.ts';
import { liveView } from '../../live/view.ts';
import type { Services } from '../../services.ts';

const time = Joi.number();

const agent = Joi.object({
  personId: Joi.string().required(),
  state: Joi.string().valid('available', 'ringing', 'talking', 'wrappingUp', 'away', 'signedOut').required(),
  since: time.required(),
  awayReason: Joi.string().allow(null).required(),
  wrapUpUntil: time.allow(null).required(),
  restsUntil: time.allow(null).required(),
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
});

const call = Joi.object({
  callId: Joi.string().required(),
  direction: Joi.string().valid('inbound', 'outbound', 'line').required(),
  to: Joi.string().required(),
  from: Joi.string().required(),
  callerName: Joi.string().allow(null).required(),
  stage: Joi.string()
    .valid(
      ...['routing', 'waiting', 'ringing', 'talking', 'voicemail'],
      ...['dialling', 'greeting', 'announcement', 'held', 'ended'],
    )
    .required(),
  since: time.required(),
  arrivedAt: time.required(),
  answeredAt: time.allow(null).required(),
  numberId: Joi.string().allow(null).required(),
  queueId: Joi.string().allow(null).required(),
  campaignId: Joi.string().allow(null).required(),
  contactId: Joi.string().allow(null).required(),
  recordId: Joi.string().allow(null).required(),
  sourceId: Joi.string().allow(null).required(),
  trunkId: Joi.string().allow(null).required(),
  personId: Joi.string().allow(null).required(),
  leg: Joi.string().allow(null).required(),
  phoneId: Joi.string().allow(null).required(),
  offers: Joi.number().integer().required(),
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
    keep: Joi.boolean().required(),
    why: Joi.string().valid('ratio', 'oneEach', 'atLimit').required(),
  }).required(),
  free: Joi.number().integer().required(),
});

export function floorRoutes({ live }: Services): Route[] {
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
  ];
}
