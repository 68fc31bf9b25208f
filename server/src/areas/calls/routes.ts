import Joi from 'joi';
import { callResults, directions } from '@night-bell/core/story/facts';
import { day } from '@night-bell/core/model/fields.schema';
import { readers, roles } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { type Caller, idParams, route, type Route, signedIn } from '../../http/route.ts';
import { callLive } from '../../live/view.ts';
import type { Services } from '../../services.ts';
import { daysOf, today } from '../../spine/days.ts';
import { installation } from '../session/store.ts';
import { callTimes, type HalfHour, type QueueLevel, queueLevels } from './times.queries.ts';
import {
  type CallFilter,
  callNarrowing,
  callTotals,
  findCall,
  findCalls,
  neighbours,
} from './calls.queries.ts';

const area = 'Calls';
const pageSize = 200;

const callRow = Joi.object({
  id: Joi.string().required(),
  direction: Joi.string()
    .valid(...directions)
    .required(),
  arrivedAt: Joi.string().required(),
  endedAt: Joi.string().required(),
  dialled: Joi.string().required(),
  numberId: Joi.string().allow(null).required(),
  numberLabel: Joi.string().allow(null).required(),
  caller: Joi.string().required(),
  callerName: Joi.string().allow(null).required(),
  queueId: Joi.string().allow(null).required(),
  queueName: Joi.string().allow(null).required(),
  ringGroupId: Joi.string().allow(null).required(),
  ringGroupName: Joi.string().allow(null).required(),
  campaignId: Joi.string().allow(null).required(),
  campaignName: Joi.string().allow(null).required(),
  sourceId: Joi.string().allow(null).required(),
  sourceName: Joi.string().allow(null).required(),
  recordId: Joi.string().allow(null).required(),
  recordName: Joi.string().allow(null).required(),
  trunkName: Joi.string().allow(null).required(),
  attempt: Joi.number().integer().required(),
  outcome: Joi.string().allow(null).required(),
  note: Joi.string().allow('', null).required(),
  personId: Joi.string().allow(null).required(),
  personName: Joi.string().allow(null).required(),
  result: Joi.string()
    .valid(...callResults)
    .required(),
  endedBy: Joi.string().valid('caller', 'contact', 'agent', 'exchange').required(),
  waitedMs: Joi.number().integer().required(),
  talkedMs: Joi.number().integer().required(),
  messageMs: Joi.number().integer().allow(null).required(),
  offers: Joi.number().integer().required(),
  standIn: Joi.boolean().required(),
  rehearsed: Joi.boolean().required(),
});

/** One step of a story: the engine's own record, whole. Its kinds are described in docs/words.md. */
export const storyRecord = Joi.object({
  callId: Joi.string().required(),
  at: Joi.number().required(),
  kind: Joi.string().required(),
}).unknown(true);

const callInProgress = Joi.object({
  stage: Joi.string().required(),
  since: Joi.number().required(),
}).unknown(true);

const query = (callNarrowing as Joi.ObjectSchema<CallFilter & { totals: boolean }>).keys({
  behind: Joi.string().guid(),
  limit: Joi.number().integer().min(1).max(500).default(pageSize),
  /** Every call that fits is counted for them. */
  totals: Joi.boolean().default(true),
});

const count = Joi.number().integer().required();

export function callRoutes({ database, live }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/queue-levels',
      area,
      summary: 'Of each queue, how many calls of today were answered within the time it aims at',
      who: readers,
      reply: Joi.array().items(
        Joi.object<QueueLevel, true>({
          queueId: Joi.string().required(),
          offered: count,
          answered: count,
          inTime: count,
        }),
      ),
      errors: [],
      handle: async () => {
        const zone = (await installation(database)).time_zone;
        return queueLevels(database, today(zone));
      },
    }),
    route({
      method: 'GET',
      path: '/api/call-times',
      area,
      summary:
        'Inbound calls of a number or a queue by half hours of the day, over the days asked for together',
      who: readers,
      query: Joi.object<{ numberId?: string; queueId?: string; from: string; to: string }>({
        numberId: Joi.string().guid(),
        queueId: Joi.string().guid(),
        from: day.required(),
        to: day.required(),
      }),
      reply: Joi.array().items(
        Joi.object<HalfHour, true>({
          half: count.min(0).max(47),
          calls: count,
          answered: count,
          lost: count,
          inTime: count.allow(null),
        }),
      ),
      errors: [],
      handle: async ({ query: { from, to, ...of } }) => {
        const zone = (await installation(database)).time_zone;
        return callTimes(database, { ...of, ...daysOf(from, to, zone), zone });
      },
    }),
    route({
      method: 'GET',
      path: '/api/calls',
      area,
      summary: 'Calls that are over, newest first, with how many by result; an agent sees their own',
      who: roles,
      query,
      reply: Joi.object({
        calls: Joi.array().items(callRow).required(),
        totals: Joi.array()
          .items(Joi.object({ result: Joi.string().required(), count: Joi.number().integer().required() }))
          .required(),
        more: Joi.boolean().required(),
      }),
      errors: [],
      handle: async ({ query: asked, caller }) => {
        const filter = { ...asked, ...onlyOwn(signedIn(caller)) };
        const calls = await findCalls(database, { ...filter, limit: filter.limit + 1 });
        const isCounted = asked.totals && asked.behind === undefined;
        const totals = isCounted ? await callTotals(database, filter) : [];
        return { calls: calls.slice(0, filter.limit), totals, more: calls.length > filter.limit };
      },
    }),
    route({
      method: 'GET',
      path: '/api/calls/:id',
      area,
      summary: 'One call with its story: every decision with its reason; also while it lasts',
      who: roles,
      params: idParams,
      reply: Joi.object({
        call: callRow.allow(null).required(),
        inProgress: callInProgress.allow(null).required(),
        story: Joi.array().items(storyRecord).required(),
        earlier: Joi.string().allow(null).required(),
        later: Joi.string().allow(null).required(),
      }),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        const inProgress = () => (live.ready ? callLive(live.exchange.view(), params.id) : null);
        let ended = await findCall(database, params.id);
        if (ended === null && inProgress() === null) {
          // It may have ended this instant: then it is in neither place until its end is committed.
          await live.committed();
          ended = await findCall(database, params.id);
        }
        if (ended !== null) {
          if (!readers.includes(me.role) && ended.call.personId !== me.personId) throw notYours();
          return { ...ended, inProgress: null, ...(await neighbours(database, params.id)) };
        }
        const call = inProgress();
        if (call === null) throw new Problem('notFound', 'There is no such call.');
        if (!readers.includes(me.role) && call.personId !== me.personId) throw notYours();
        return {
          call: null,
          inProgress: call,
          story: live.story(params.id) ?? [],
          earlier: null,
          later: null,
        };
      },
    }),
  ];
}

function onlyOwn(caller: Caller): { personId?: string } {
  return readers.includes(caller.role) ? {} : { personId: caller.personId };
}

function notYours(): Problem {
  return new Problem('notAllowed', 'Agents open their own calls. Ask a supervisor.');
}
