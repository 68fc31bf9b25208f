import Joi from 'joi';
import { editors, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { requirePostOffice, sendCodes } from './code-letters.ts';
import { freshCodes } from './fresh-codes.ts';
import { bulkIds, newPerson } from './schemas.ts';
import { getPerson } from './store.ts';

const area = 'People';

/** How somebody gets in, and where they are in: codes, locks and sign-ins. */
export function peopleAccessRoutes({ database, seal, sessions, throttle, mail }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/people/:id/access',
      area,
      summary: 'Where somebody is signed in, and whether too many wrong guesses keep them out',
      who: readers,
      params: idParams,
      reply: Joi.object({
        signIns: Joi.array()
          .items(
            Joi.object({
              since: Joi.string().required(),
              seenAt: Joi.string().required(),
              address: Joi.string().allow('').required(),
              browser: Joi.string().allow('').required(),
            }),
          )
          .required(),
        lockedSeconds: Joi.number().integer().required(),
      }),
      errors: ['notFound'],
      handle: async ({ params }) => {
        const { login } = await getPerson(database, params.id);
        return {
          signIns: await sessions.of(params.id),
          lockedSeconds: await throttle.lockedAccountSeconds(login),
        };
      },
    }),
    route({
      method: 'DELETE',
      path: '/api/people/:id/sign-ins',
      area,
      summary: 'End all sign-ins of a person; their password stays',
      who: editors,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, caller }) => {
        await getPerson(database, params.id);
        if (signedIn(caller).personId === params.id)
          throw new Problem('notNow', 'This would sign you out. Use Sign out instead.');
        await sessions.endAllOf(params.id);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/:id/unlock',
      area,
      summary: 'Let somebody try again at once who guessed wrong too often',
      who: editors,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params }) => {
        const { login } = await getPerson(database, params.id);
        await throttle.unlock(login);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/:id/code',
      area,
      summary: 'A new one-time sign-in code; the old password and all sign-ins end',
      who: editors,
      params: idParams,
      reply: Joi.object({ signInCode: Joi.string().required() }),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, caller }) => {
        const person = await getPerson(database, params.id);
        if (person.retired) throw new Problem('notNow', `${person.name} is deactivated. Reactivate first.`);
        if (signedIn(caller).personId === params.id) {
          throw new Problem('notNow', 'This would sign you out. Change your own password instead.');
        }
        const [fresh] = await database.transaction((trx) => freshCodes(trx, seal, [params.id]));
        await sessions.endAllOf(params.id);
        return { signInCode: fresh!.signInCode };
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/codes',
      area,
      summary:
        'New one-time sign-in codes for several people, sent by mail if wished; their old passwords and sign-ins end',
      who: editors,
      perMinute: 30,
      body: Joi.object<{ ids: string[]; send: boolean }>({
        ids: bulkIds,
        send: Joi.boolean().default(false),
      }),
      reply: Joi.array().items(newPerson),
      errors: ['notNow'],
      handle: async ({ body, caller }) => {
        if (body.send) requirePostOffice(mail, '/send');
        if (body.ids.includes(signedIn(caller).personId))
          throw new Problem('notNow', 'You are among them, and would be signed out. Unmark yourself.');
        const people = await database.transaction(async (trx) => {
          const made = await freshCodes(trx, seal, body.ids);
          return body.send ? sendCodes(trx, seal, made) : made;
        });
        for (const { id } of people) await sessions.endAllOf(id);
        return people;
      },
    }),
  ];
}
