import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import {
  messageDeletion,
  messageForward,
  messageMark,
  messageView,
} from '@night-bell/core/contracts/voicemail-boxes';
import { roles } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Gateways } from '../../live/gateways.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { dialFor } from './call-back.ts';
import { audible, type Listener, mustHear } from './hearing.ts';
import {
  deleteMessages,
  forwardMessages,
  markMessages,
  messagesById,
  messagesOf,
  recordCallBack,
  recordHearing,
  recordingOf,
} from './messages.ts';
import { voicemailItem } from './store.ts';

const area = 'Voicemail';
const atOnce = 100;

export function messageRoutes({ database, live }: Services, gateways: Gateways): Route[] {
  /** Messages by id, when the caller may hear every one of them. */
  const heardBy = async (ids: readonly string[], who: Listener) => {
    const messages = await messagesById(database, ids);
    await mustHear(
      database,
      who,
      messages.map(({ boxId }) => boxId),
    );
    return messages;
  };

  return [
    route({
      method: 'GET',
      path: '/api/voicemail',
      area,
      summary:
        'The boxes whose messages you may hear, with how many nobody has heard; those with new ones first',
      who: roles,
      reply: Joi.array().items(
        Joi.object({
          id: Joi.string().required(),
          name: Joi.string().required(),
          own: Joi.boolean().required(),
          held: Joi.number().integer().required(),
          fresh: Joi.number().integer().required(),
          oldestFresh: Joi.number().integer().allow(null).required(),
        }),
      ),
      errors: [],
      handle: async ({ caller }) => {
        const me = signedIn(caller);
        const rows = await database
          .with('boxes', audible(database, me).select('v.id', 'i.name', 'v.owner_id'))
          .from('boxes as b')
          .leftJoin('message as m', (join) => {
            join.on('m.box_id', 'b.id').andOnNull('m.deleted_at');
          })
          .groupBy('b.id', 'b.name', 'b.owner_id')
          .select<
            {
              id: string;
              name: string;
              own: boolean;
              held: number;
              fresh: number;
              oldestFresh: Date | null;
            }[]
          >(
            'b.id',
            'b.name',
            database.raw('b.owner_id is not distinct from ? as own', [me.personId]),
            database.raw('count(m.id)::int as held'),
            database.raw(`count(m.id) filter (where m.state = 'new')::int as fresh`),
            database.raw(`min(m.at) filter (where m.state = 'new') as "oldestFresh"`),
          );
        return rows
          .map((row) => ({ ...row, oldestFresh: row.oldestFresh?.getTime() ?? null }))
          .sort(
            (one, other) =>
              Number(other.fresh > 0) - Number(one.fresh > 0) ||
              Number(other.own) - Number(one.own) ||
              (one.oldestFresh ?? 0) - (other.oldestFresh ?? 0) ||
              one.name.localeCompare(other.name),
          );
      },
    }),
    route({
      method: 'GET',
      path: '/api/voicemail-boxes/:id/messages',
      area,
      summary: 'Messages of a box, latest first, a hundred at a time; those deleted today are among them',
      who: roles,
      params: idParams,
      query: Joi.object<{ before?: number }>({ before: Joi.number().integer().positive() }),
      reply: Joi.array().items(objectSchema(messageView).optional()),
      errors: ['notFound'],
      handle: async ({ params, query, caller }) => {
        await voicemailItem.get(database, params.id);
        await mustHear(database, signedIn(caller), [params.id]);
        return messagesOf(database, params.id, { before: query.before ?? null, most: atOnce });
      },
    }),
    route({
      method: 'GET',
      path: '/api/messages/:id/sound',
      area,
      summary: 'What was recorded (WAV, G.711). That you listen stands in the history of the box',
      who: roles,
      params: idParams,
      reply: Joi.any(),
      errors: ['notFound'],
      handle: async ({ params, caller, reply }) => {
        const me = signedIn(caller);
        const [message] = await heardBy([params.id], me);
        const sound = await recordingOf(database, message!.callId);
        await recordHearing(database, message!, me.personId, authorOf(me.personId));
        await reply.header('content-type', 'audio/wav').send(sound);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/messages/mark',
      area,
      summary: 'Mark messages as new, heard or kept; those kept are not deleted by their age',
      who: roles.filter((role) => role !== 'auditor'),
      body: objectSchema(messageMark),
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ body, caller }) => {
        const me = signedIn(caller);
        const messages = await heardBy(body.ids, me);
        await database.transaction((trx) => markMessages(trx, messages, body.state, authorOf(me.personId)));
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/messages/delete',
      area,
      summary: 'Delete messages, or bring back what was deleted today',
      who: roles.filter((role) => role !== 'auditor'),
      body: objectSchema(messageDeletion),
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ body, caller }) => {
        const me = signedIn(caller);
        const messages = await heardBy(body.ids, me);
        await database.transaction((trx) =>
          deleteMessages(trx, messages, body.deleted, authorOf(me.personId)),
        );
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/messages/:id/call-back',
      area,
      summary: 'Have your phone dial who left the message',
      who: roles.filter((role) => role !== 'auditor'),
      perMinute: 60,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow', 'exchangeAway'],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        const [message] = await heardBy([params.id], me);
        if (!/^[+\d]/.test(message!.from))
          throw new Problem('notNow', 'Who left this message withheld their number.');
        await dialFor(live, gateways, me.personId, message!.from);
        await database.transaction((trx) => recordCallBack(trx, message!, authorOf(me.personId)));
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/messages/forward',
      area,
      summary: 'Put messages into another box too, as new ones',
      who: roles.filter((role) => role !== 'auditor'),
      body: objectSchema(messageForward),
      reply: Joi.object({ came: Joi.number().integer().required() }),
      errors: ['notFound', 'notNow'],
      handle: async ({ body, caller }) => {
        const me = signedIn(caller);
        const messages = await heardBy(body.ids, me);
        const to = await voicemailItem.get(database, body.boxId);
        if (to.retired) throw Problem.field('/boxId', `${to.name} is deactivated. Choose another.`);
        if (to.held + messages.length > to.mostMessages)
          throw new Problem('notNow', `${to.name} has no room for ${messages.length} more. Choose another.`);
        const came = await database.transaction((trx) =>
          forwardMessages(trx, messages, to, authorOf(me.personId)),
        );
        return { came };
      },
    }),
  ];
}
