import Joi from 'joi';
import type { Knex } from 'knex';
import { ownCall, talkingLeg, watchedNow } from '@night-bell/core/exchange/watching';
import { deviceModel } from '@night-bell/core/phones/catalogue';
import { type KeyFace, keyFace, keyActions, type LineKey } from '@night-bell/core/phones/line-keys';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import type { Gateways } from '../../live/gateways.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { checkDirects } from '../people/directing.ts';
import { changePhone, getPhone, type OwnedPhone, phoneSnapshot } from './store.ts';

const area = 'Phones';

type Face = KeyFace & { position: number };

const faceView = Joi.object<Face, true>({
  position: Joi.number().integer().required(),
  situation: Joi.string().valid('quiet', 'ringing', 'inCall').required(),
  light: Joi.string().valid('off', 'steady', 'blinking').required(),
  alerts: Joi.boolean().required(),
  caller: Joi.string().allow(null).required(),
  press: Joi.string()
    .valid(...new Set(Object.values(keyActions).flat()))
    .required(),
});

/** What the keys of a phone show, one pressed, all of them copied. */
export function lineKeyRoutes({ database, live }: Services, gateways: Gateways): Route[] {
  const faceOf = (phone: OwnedPhone, key: LineKey) => {
    const state = live.exchange.view();
    const watched = watchedNow(state, key.personId, Date.now());
    const { leg, own } = ownCall(state, phone.personId, key.personId);
    return { watched, leg, own, face: keyFace(key, watched, own) };
  };

  return [
    route({
      method: 'GET',
      path: '/api/phones/:id/line-keys',
      area,
      summary: 'What each key of the phone shows now, and what a press would do',
      who: readers,
      params: idParams,
      reply: Joi.array().items(faceView),
      errors: ['notFound', 'exchangeAway'],
      handle: async ({ params }) => {
        const phone = await getPhone(database, params.id);
        return phone.lineKeys.map((key) => ({ position: key.position, ...faceOf(phone, key).face }));
      },
    }),
    route({
      method: 'POST',
      path: '/api/phones/:id/line-keys/:position/press',
      area,
      summary: 'Press a key of a phone: what it does follows from the situation',
      who: operators,
      params: Joi.object<{ id: string; position: number }>({
        id: Joi.string().guid().required(),
        position: Joi.number().integer().min(1).max(99).required(),
      }),
      reply: Joi.object({ said: Joi.string().required() }),
      errors: ['notFound', 'notNow', 'notAllowed', 'exchangeAway'],
      handle: async ({ params, caller }) => {
        const phone = await getPhone(database, params.id);
        const key = phone.lineKeys.find((each) => each.position === params.position);
        if (key === undefined) throw new Problem('notFound', 'Nothing is set for that key.');
        const me = signedIn(caller);
        await checkDirects(database, me, phone.personId);
        const { watched, leg, own, face } = faceOf(phone, key);
        const by = me.personId;
        const person = live.exchange.view().agents.get(key.personId)?.person;
        if (person === undefined) throw new Problem('notNow', 'Who is watched works here no longer.');
        switch (face.press) {
          case 'call':
            if (person.extension === null) throw new Problem('notNow', `${person.name} has no extension.`);
            // The phone dials by itself, as it would in somebody's hand.
            if (gateways.standIns.plays(phone.account) === null)
              throw new Problem('notNow', 'Only the phone itself can call: no stand-in plays this one.');
            gateways.standIns.tell({ kind: 'dialOn', device: phone.account, to: person.extension });
            return { said: `It calls ${person.name}.` };
          case 'take':
            await live.command({ kind: 'callPickedUp', callId: watched.callId!, phoneId: phone.id }, by);
            return { said: `The call of ${person.name} is taken.` };
          case 'announce':
            await live.command({ kind: 'consultationAsked', leg: leg!, personId: person.id }, by);
            return {
              said: `The caller is held, and ${person.name} rings. Press again to put the caller through.`,
            };
          case 'handOver': {
            const to = { kind: 'person' as const, id: person.id };
            await live.command({ kind: 'callTransferred', leg: leg!, to }, by);
            return {
              said: `The caller ${own === 'telling' ? 'is put through' : 'goes on'} to ${person.name}.`,
            };
          }
          case 'nothing':
            return { said: 'In this situation the key does nothing.' };
        }
      },
    }),
    route({
      method: 'POST',
      path: '/api/phones/:id/take-back',
      area,
      summary: 'Have the caller back whom a key of this phone announced',
      who: operators,
      params: idParams,
      reply: Joi.object({ said: Joi.string().required() }),
      errors: ['notFound', 'notNow', 'notAllowed', 'exchangeAway'],
      handle: async ({ params, caller }) => {
        const phone = await getPhone(database, params.id);
        const me = signedIn(caller);
        await checkDirects(database, me, phone.personId);
        const leg = talkingLeg(live.exchange.view(), phone.personId);
        if (leg === null) throw new Problem('notNow', 'Nobody talks on this phone.');
        await live.command({ kind: 'callerRetrieved', leg }, me.personId);
        return { said: 'The caller is back.' };
      },
    }),
    route({
      method: 'POST',
      path: '/api/phones/:id/line-keys/copy',
      area,
      summary: 'Give other phones the keys of this one, instead of theirs; all of them or none',
      who: editors,
      params: idParams,
      body: Joi.object<{ to: string[] }>({
        to: Joi.array().items(Joi.string().guid()).min(1).max(500).unique().required(),
      }),
      reply: Joi.object({ copied: Joi.number().integer().required() }),
      errors: ['notFound', 'invalidInput'],
      handle: async ({ params, body, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        const from = await getPhone(database, params.id);
        await database.transaction(async (trx) => {
          for (const [index, id] of body.to.entries()) await copyTo(trx, from, id, `/to/${index}`, author);
        });
        return { copied: body.to.length };
      },
    }),
  ];
}

/** Who has the phone does not watch themselves: that key is left out. */
async function copyTo(
  trx: Knex.Transaction,
  from: OwnedPhone,
  id: string,
  path: string,
  author: ReturnType<typeof authorOf>,
): Promise<void> {
  const phone = await getPhone(trx, id);
  const keys = from.lineKeys.filter((key) => key.personId !== phone.personId);
  const room = phone.model === null ? 0 : deviceModel(phone.model)!.lineKeys;
  const last = Math.max(0, ...keys.map((key) => key.position));
  if (last > room)
    throw Problem.field(
      path,
      room === 0
        ? `The phone of ${phone.personName} has no keys to programme. Nothing was copied.`
        : `The phone of ${phone.personName} has ${room} keys; this one uses key ${last}. Nothing was copied.`,
    );
  await changePhone(trx, id, phone.version, { ...phoneSnapshot(phone), lineKeys: keys }, author);
}
