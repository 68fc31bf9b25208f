import Joi from 'joi';
import { v7 as uuid } from 'uuid';
import { tookPart } from '@night-bell/core/story/handled-by';
import { merge } from '@night-bell/core/match/merge';
import { readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { type Caller, idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import { callLive, isOf } from '../../live/view.ts';
import type { Services } from '../../services.ts';
import { announceChange, authorOf } from '../../spine/items.ts';
import { readAgentSettings } from '../agent-settings/store.ts';
import { agentState, stateEvent } from '../people/agent-state.ts';
import { phoneView } from '../phones/schemas.ts';
import { browserPhone, phonesByPerson } from '../phones/store.ts';
import { recordReply, recordView } from '../records/routes.ts';
import { ownLeg } from './own-leg.ts';
import { outcomesView, workers } from './schemas.ts';
import {
  type DeskCall,
  deskCallOf,
  endedDeskCall,
  endedStory,
  giveOutcome,
  lastCalls,
  mergeValues,
  optOutFromDesk,
  purposeOf,
  storedOutcome,
} from './store.ts';

const area = 'Desk';
const lastShown = 12;
const textOrNull = Joi.string().allow(null).required();

export function deskRoutes(services: Services): Route[] {
  const { database, live } = services;

  const storyOf = async (id: string) => live.story(id) ?? (await endedStory(database, id));

  /** A call in progress or over; an agent's own only. */
  const find = async (id: string, me: Caller): Promise<DeskCall> => {
    const now = live.ready ? callLive(live.exchange.view(), id) : null;
    const ended = async () => {
      const known = await endedDeskCall(database, id);
      if (known !== null) return known;
      // It may have ended a moment ago, and be written in the next.
      await live.committed();
      return endedDeskCall(database, id);
    };
    const call = now === null ? await ended() : deskCallOf(now);
    if (call === null) throw new Problem('notFound', 'There is no such call.');
    const rung = call.personId === me.personId || (now !== null && isOf(now, me.personId));
    // Who handed the caller over still says how their part ended.
    const own = rung || tookPart(await storyOf(id), me.personId);
    if (!own && !readers.includes(me.role))
      throw new Problem('notAllowed', 'Agents open their own calls. Ask a supervisor.');
    return call;
  };

  return [
    route({
      method: 'GET',
      path: '/api/desk',
      area,
      summary: 'What an agent works with: their phones and latest calls; the live state comes over /api/live',
      who: workers,
      reply: Joi.object({
        awayReasons: Joi.array().items(Joi.string()).required(),
        phones: Joi.array().items(phoneView).required(),
        lastCalls: Joi.array()
          .items(
            Joi.object({
              id: Joi.string().required(),
              direction: Joi.string().valid('inbound', 'outbound').required(),
              arrivedAt: Joi.string().required(),
              number: Joi.string().required(),
              name: textOrNull,
              about: textOrNull,
              result: Joi.string().required(),
              talkedMs: Joi.number().integer().required(),
              outcome: textOrNull,
              note: Joi.string().allow('', null).required(),
            }),
          )
          .required(),
      }),
      errors: [],
      handle: async ({ caller }) => {
        const me = signedIn(caller);
        return {
          awayReasons: (await readAgentSettings(database)).awayReasons,
          phones: (await phonesByPerson(database, [me.personId])).get(me.personId) ?? [],
          lastCalls: await lastCalls(database, me.personId, lastShown),
        };
      },
    }),
    route({
      method: 'POST',
      path: '/api/desk/state',
      area,
      summary: 'Sign in to the queues, go away with a reason, come back, end the wrap-up, sign out',
      who: workers,
      body: agentState,
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ body, caller }) => {
        const { personId } = signedIn(caller);
        await live.command(stateEvent(personId, body.state, body.reason, true), personId);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/desk/phone',
      area,
      summary: 'Choose which of the own phones rings; this page becomes one when it is first chosen',
      who: workers,
      body: Joi.object<{ phone: string | null }>({
        phone: Joi.alternatives(Joi.valid('page'), Joi.string().guid()).allow(null).required(),
      }),
      reply: Joi.object({ phoneId: textOrNull }),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ body, caller }) => {
        const { personId, name } = signedIn(caller);
        const phoneId = await database.transaction(async (trx) => {
          if (body.phone === null) return null;
          if (body.phone === 'page') {
            const id = await browserPhone(trx, { personId, name }, authorOf(personId));
            await announceChange(trx);
            return id;
          }
          const phones = (await phonesByPerson(trx, [personId])).get(personId) ?? [];
          if (!phones.some((each) => each.id === body.phone))
            throw new Problem('notNow', 'You have no such phone. An administrator can give you one.');
          return body.phone;
        });
        await live.command({ kind: 'phoneChosen', personId, phoneId }, personId);
        return { phoneId };
      },
    }),
    route({
      method: 'POST',
      path: '/api/desk/line',
      area,
      summary: 'Have the own outside number dialled and held open between calls, or close that line',
      who: workers,
      body: Joi.object<{ open: boolean }>({ open: Joi.boolean().required() }),
      reply: nothing.allow(null),
      errors: ['notNow', 'exchangeAway'],
      handle: async ({ body, caller }) => {
        const { personId } = signedIn(caller);
        await live.command(
          body.open
            ? { kind: 'persistentLineAsked', callId: uuid(), personId }
            : { kind: 'persistentLineClosed', personId },
          personId,
        );
        return null;
      },
    }),
    ...(['answer', 'decline', 'hang-up'] as const).map((what) =>
      route({
        method: 'POST',
        path: `/api/desk/calls/:id/${what}`,
        area,
        summary: {
          answer: 'Lift: the own page plays the phone',
          decline: 'Do not take the call that rings',
          'hang-up': 'End the call',
        }[what],
        who: workers,
        params: idParams,
        reply: nothing.allow(null),
        errors: ['notNow', 'exchangeAway'],
        handle: async ({ params, caller }) => {
          const me = signedIn(caller);
          const { leg, phoneId, rings } = ownLeg(live, params.id, me);
          const dialled = live.exchange.view().calls.get(params.id)?.direction === 'dialled';
          const phone = live.exchange.view().phones.get(phoneId ?? '');
          if (what === 'answer') {
            if (phone?.item.kind !== 'browser')
              throw new Problem(
                'notNow',
                'This call rings another phone. Lift that one, or choose this page.',
              );
            await live.command({ kind: 'legAnswered', leg }, me.personId);
          } else if (what === 'decline' || rings)
            await live.command({ kind: 'legFailed', leg, cause: 'declined' }, me.personId);
          else
            await live.command(
              dialled ? { kind: 'callerHungUp', callId: params.id } : { kind: 'legEnded', leg },
              me.personId,
            );
          return null;
        },
      }),
    ),
    route({
      method: 'GET',
      path: '/api/desk/calls/:id',
      area,
      summary: 'What a call is for: script with its fields filled, outcomes, record, source',
      who: [...workers, 'auditor'],
      params: idParams,
      reply: Joi.object({
        number: Joi.string().required(),
        name: textOrNull,
        direction: Joi.string().required(),
        campaignName: textOrNull,
        queueName: textOrNull,
        sourceName: textOrNull,
        script: Joi.string().allow('').required(),
        outcomes: outcomesView.required(),
        fields: Joi.object().pattern(Joi.string(), Joi.string().allow('')).required(),
        record: recordView.allow(null).required(),
        given: Joi.object({ outcome: textOrNull, note: Joi.string().allow('').required() })
          .allow(null)
          .required(),
      }),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        const call = await find(params.id, me);
        const purpose = await purposeOf(database, call);
        const values = await mergeValues(database, call, me);
        const ofContact = Object.entries(values).filter(([key]) => key.startsWith('contact.'));
        return {
          number: call.number,
          name: values['contact.name'] ?? null,
          direction: call.direction,
          campaignName: purpose.campaignName,
          queueName: purpose.queueName,
          sourceName: purpose.sourceName,
          script: merge(purpose.script, values, undefined, '…'),
          outcomes: purpose.outcomes,
          fields: Object.fromEntries(ofContact.map(([key, value]) => [key.slice('contact.'.length), value])),
          record:
            call.recordId === null ? null : await recordReply(database, call.recordId).catch(() => null),
          given: await storedOutcome(database, call.id),
        };
      },
    }),
    route({
      method: 'PUT',
      path: '/api/desk/calls/:id/outcome',
      area,
      summary: 'Say how the call ended, with a note; may be said again',
      who: workers,
      params: idParams,
      body: Joi.object<{ outcome: string | null; note: string }>({
        outcome: Joi.string().max(40).allow(null).default(null),
        note: Joi.string()
          .allow('')
          .max(2_000)
          .default('')
          .messages({ 'string.max': 'A note has at most 2,000 characters.' }),
      }),
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        const me = signedIn(caller);
        const call = await find(params.id, me);
        await database.transaction((trx) => giveOutcome(trx, call, me.personId, body));
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/desk/calls/:id/opt-out',
      area,
      summary: 'Put the other side of this call on the opt-out list',
      who: workers,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        const call = await find(params.id, me);
        await database.transaction((trx) => optOutFromDesk(trx, call, me.personId));
        return null;
      },
    }),
  ];
}
