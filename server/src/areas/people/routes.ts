import Joi from 'joi';
import { nextExtension } from '@night-bell/core/model/extension';
import { freeLogin } from '@night-bell/core/model/login';
import { personChange, personDraft } from '@night-bell/core/model/people.schema';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import { oneTimeCode } from '../../security/seal.ts';
import type { Services } from '../../services.ts';
import { authorOf, usedBy } from '../../spine/items.ts';
import { insertCodes } from '../phones/codes.ts';
import { newPhoneSecret } from '../phones/store.ts';
import { agentState, stateEvent } from './agent-state.ts';
import { createPeople, extensionsByTeam } from './create.ts';
import { usedByView } from '../../http/used-by-view.ts';
import { newPerson, personView } from './schemas.ts';
import { changePerson, getPerson, listPeople, reactivatePerson, retirePerson } from './store.ts';

const area = 'People';

export function peopleRoutes({ database, seal, sessions, live }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/people',
      area,
      summary: 'Everybody with a login, by extension; their live state is on the floor',
      who: readers,
      reply: Joi.array().items(personView),
      errors: [],
      handle: () => listPeople(database),
    }),
    route({
      method: 'GET',
      path: '/api/people/proposal',
      area,
      summary: 'The login and extension a new person would get',
      who: editors,
      query: Joi.object<{ name: string; teamId?: string }>({
        name: Joi.string().allow('').max(80).required(),
        teamId: Joi.string().guid(),
      }),
      reply: Joi.object({ login: Joi.string().required(), extension: Joi.string().required() }),
      errors: [],
      handle: async ({ query }) => {
        const logins = new Set<string>(await database('person').pluck('login'));
        const extensions = new Set<string>(await database('extension').pluck('digits'));
        const byTeam = await extensionsByTeam(database);
        const neighbours = byTeam.get(query.teamId ?? '') ?? byTeam.get('') ?? [];
        return { login: freeLogin(query.name, logins), extension: nextExtension(extensions, neighbours) };
      },
    }),
    route({
      method: 'POST',
      path: '/api/people',
      area,
      summary:
        'Make a person with login, extension, softphone and voicemail; the secrets are shown this once',
      who: editors,
      body: personDraft,
      reply: newPerson,
      errors: ['taken'],
      handle: async ({ body, caller }) => {
        const [created] = await database.transaction((trx) =>
          createPeople(trx, seal, [body], authorOf(signedIn(caller).personId)),
        );
        return created!;
      },
    }),
    route({
      method: 'GET',
      path: '/api/people/:id',
      area,
      summary: 'One person, and what uses them',
      who: readers,
      params: idParams,
      reply: Joi.object({ person: personView.required(), usedBy: usedByView.required() }),
      errors: ['notFound'],
      handle: async ({ params }) => ({
        person: await getPerson(database, params.id),
        usedBy: await usedBy(database, params.id),
      }),
    }),
    route({
      method: 'PUT',
      path: '/api/people/:id',
      area,
      summary: 'Change a person',
      who: editors,
      params: idParams,
      body: personChange,
      ifMatch: true,
      reply: personView,
      errors: ['notFound', 'taken', 'changedMeanwhile', 'versionNeeded', 'notNow'],
      handle: async ({ params, body, version, caller }) => {
        await database.transaction((trx) =>
          changePerson(trx, params.id, version, body, authorOf(signedIn(caller).personId)),
        );
        return getPerson(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/:id/retire',
      area,
      summary: 'Deactivate a person: no sign-in, no calls; their history stays',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: personView,
      errors: ['notFound', 'inUse', 'changedMeanwhile', 'versionNeeded', 'notNow'],
      handle: async ({ params, version, caller }) => {
        await database.transaction((trx) =>
          retirePerson(trx, sessions, params.id, version, authorOf(signedIn(caller).personId)),
        );
        return getPerson(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/:id/reactivate',
      area,
      summary: 'Bring a deactivated person back',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: personView,
      errors: ['notFound', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        await database.transaction((trx) =>
          reactivatePerson(trx, params.id, version, authorOf(signedIn(caller).personId)),
        );
        return getPerson(database, params.id);
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
        const signInCode = oneTimeCode();
        await database.transaction(async (trx) => {
          await trx('one_time_code')
            .where({ person_id: params.id, purpose: 'sign-in' })
            .whereNull('used_at')
            .update({ used_at: trx.fn.now() });
          await trx('credential').where({ person_id: params.id }).delete();
          await insertCodes(trx, seal, [{ purpose: 'sign-in', code: signInCode, personId: params.id }]);
        });
        await sessions.endAllOf(params.id);
        return { signInCode };
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/:id/phone-secret',
      area,
      summary:
        "A new registration secret and enrolment code for the person's phone; the old secret stops working",
      who: editors,
      params: idParams,
      reply: Joi.object({
        account: Joi.string().required(),
        registrationSecret: Joi.string().required(),
        enrolmentCode: Joi.string().required(),
      }),
      errors: ['notFound', 'notNow'],
      handle: async ({ params }) => {
        const { phones, name } = await getPerson(database, params.id);
        const phone = phones.find((each) => each.kind === 'softphone');
        if (phone === undefined) throw new Problem('notNow', `${name} has no softphone.`);
        const secret = await database.transaction((trx) =>
          newPhoneSecret(trx, seal, { id: phone.id, personId: params.id, account: phone.account }),
        );
        return { account: phone.account, ...secret };
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/:id/state',
      area,
      summary: 'Sign an agent in, set them away, sign them out, or end their wrap-up',
      who: operators,
      params: idParams,
      body: agentState,
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        await getPerson(database, params.id);
        await live.command(stateEvent(params.id, body.state, body.reason), signedIn(caller).personId);
        return null;
      },
    }),
  ];
}
