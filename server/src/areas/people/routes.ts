import Joi from 'joi';
import { Proposals } from '@night-bell/core/model/proposals';
import { personChange, personDraft } from '@night-bell/core/model/people.schema';
import { role as roleField } from '@night-bell/core/model/fields.schema';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { answerPage } from '../../http/paging.ts';
import { type Caller, idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf, usedBy } from '../../spine/items.ts';
import { agentState, type AgentStateBody, stateEvent } from './agent-state.ts';
import { checkDirects } from './directing.ts';
import { type BulkChange, changeMany } from './bulk.ts';
import { createPeople, extensionsByTeam } from './create.ts';
import { usedByView } from '../../http/used-by-view.ts';
import { pageOfPeople } from './people.queries.ts';
import { newPerson, peopleQuery, personRow, personView, bulkIds } from './schemas.ts';
import { changePerson, getPerson, reactivatePerson, retirePerson } from './store.ts';

const area = 'People';

const bulkChange = Joi.object<BulkChange>({
  teamId: Joi.string().guid().allow(null),
  role: roleField,
  skill: Joi.object({
    skillId: Joi.string().guid().required(),
    level: Joi.number().integer().min(1).max(5).allow(null).required(),
  }),
  joinQueueId: Joi.string().guid(),
  leaveQueueId: Joi.string().guid(),
})
  .min(1)
  .required()
  .messages({ 'object.min': 'Say what is to change.' });

export function peopleRoutes({ database, seal, sessions, live }: Services): Route[] {
  const direct = async (me: Caller, id: string, { state, reason }: AgentStateBody): Promise<void> => {
    await checkDirects(database, me, id);
    await live.command(stateEvent(id, state, reason), me.personId);
  };

  return [
    route({
      method: 'GET',
      path: '/api/people',
      area,
      summary: 'People who fit, a stretch at a time; their live state is on the floor',
      who: readers,
      query: peopleQuery,
      pages: true,
      reply: Joi.array().items(personRow),
      errors: ['exchangeAway'],
      handle: async ({ query, http, reply }) =>
        answerPage(http, reply, await pageOfPeople(database, query, () => live.exchange.view())),
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
      reply: Joi.object({ login: Joi.string().allow('').required(), extension: Joi.string().required() }),
      errors: [],
      handle: async ({ query }) => {
        const proposals = new Proposals(
          await database('person').pluck<string[]>('login'),
          await database('extension').pluck<string[]>('digits'),
          await extensionsByTeam(database),
        );
        // Nobody yet: a login for them would be anybody's.
        const login = query.name.trim() === '' ? '' : proposals.login(query.name);
        return { login, extension: proposals.extension(query.teamId ?? '') };
      },
    }),
    route({
      method: 'POST',
      path: '/api/people',
      example: { name: 'Mara Quay', role: 'agent' },
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
      path: '/api/people/bulk',
      area,
      summary: 'Change several people alike: team, role, a skill, a queue; all of them or nobody',
      who: editors,
      body: Joi.object<{ ids: string[]; change: BulkChange }>({ ids: bulkIds, change: bulkChange }),
      reply: Joi.object({ batch: Joi.string().required() }),
      errors: ['notFound', 'notNow', 'taken'],
      handle: async ({ body, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction((trx) => changeMany(trx, body.ids, body.change, author));
        return { batch: author.batch };
      },
    }),
    route({
      method: 'POST',
      path: '/api/people/bulk-state',
      area,
      summary: 'Sign several agents in, set them away or sign them out; says who could not be',
      who: operators,
      body: Joi.object<{ ids: string[]; state: AgentStateBody }>({
        ids: bulkIds,
        state: agentState.required(),
      }),
      reply: Joi.object({
        done: Joi.number().integer().required(),
        refused: Joi.array()
          .items(Joi.object({ name: Joi.string().required(), why: Joi.string().required() }))
          .required(),
      }),
      errors: ['exchangeAway'],
      handle: async ({ body, caller }) => {
        const me = signedIn(caller);
        const refused: { name: string; why: string }[] = [];
        for (const id of body.ids) {
          try {
            await direct(me, id, body.state);
          } catch (error) {
            if (!(error instanceof Problem) || error.code === 'exchangeAway') throw error;
            const row = await database('item').where({ id }).first<{ name: string } | undefined>('name');
            refused.push({ name: row?.name ?? 'Somebody', why: error.detail });
          }
        }
        return { done: body.ids.length - refused.length, refused };
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
      errors: ['notFound', 'notNow', 'notAllowed', 'exchangeAway'],
      handle: async ({ params, body, caller }) => {
        await direct(signedIn(caller), params.id, body);
        return null;
      },
    }),
  ];
}
