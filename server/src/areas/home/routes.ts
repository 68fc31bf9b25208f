import Joi from 'joi';
import { readers } from '@night-bell/core/model/roles';
import { JsonText } from '../../http/json-text.ts';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import type { Gateways } from '../../live/gateways.ts';
import { linesNow } from './lines-now.ts';

const finding = Joi.object({
  code: Joi.string().required(),
  area: Joi.string()
    .valid(
      'people',
      'trunks',
      'dialling',
      'numbers',
      'answering',
      'prompts',
      'hours',
      'destinations',
      'queues',
      'records',
      'sources',
      'campaigns',
      'calls',
    )
    .required(),
  severity: Joi.string().valid('fault', 'missing').required(),
  itemId: Joi.string().allow(null).required(),
  itemName: Joi.string().allow('').required(),
  detail: Joi.string().allow('').required(),
  /** A step of a plan. */
  place: Joi.string(),
});

const count = Joi.number().integer().required();

export function homeRoutes({ live, beside }: Services, gateways: Gateways): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/home',
      area: 'Home',
      summary: 'How far the set-up is: counts, findings, and what a caller to each number would meet now',
      who: readers,
      reply: Joi.object({
        counts: Joi.object({
          people: count,
          agents: count,
          registered: count,
          signedIn: count,
          queues: count,
          staffedQueues: count,
          numbers: count,
          plans: count,
          publishedPlans: count,
          routedNumbers: count,
          trunks: count,
          reachedTrunks: count,
          rules: count,
          soundRules: count,
          records: count,
          connections: count,
          readConnections: count,
          sources: count,
          numberedSources: count,
          campaigns: count,
          runningCampaigns: count,
          calls: count,
          callsReachedSomebody: count,
        }).required(),
        findings: Joi.array().items(finding).required(),
        ifSomeoneRang: Joi.array()
          .items(
            Joi.object({
              numberId: Joi.string().required(),
              e164: Joi.string().required(),
              label: Joi.string().required(),
              kind: Joi.string().required(),
              name: Joi.string().allow(null).required(),
              afterMs: Joi.number().required(),
              story: Joi.array().items(Joi.object().unknown(true)).required(),
            }),
          )
          .required(),
        since: Joi.array()
          .items(
            Joi.object({
              at: Joi.string().required(),
              by: Joi.string().allow(null).required(),
              what: Joi.string().required(),
              kind: Joi.string().required(),
              name: Joi.string().required(),
            }),
          )
          .required(),
      }),
      errors: ['exchangeAway'],
      // Made beside the live loop, once for all pages.
      handle: async () =>
        new JsonText(await beside.home({ seq: live.exchange.seq, lines: linesNow(live, gateways) })),
    }),
  ];
}
