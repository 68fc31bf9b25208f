import Joi from 'joi';
import { operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { answerPage, pageQuery } from '../../http/paging.ts';
import { route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { addOptOuts, optOutsNarrowing, type OptOutsQuery, pageOfOptOuts, readNumbers } from './store.ts';

const area = 'Opt-outs';
const mostAtOnce = 50_000;
const count = Joi.number().integer().required();

export function optOutRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/opt-outs',
      area,
      summary: 'Numbers never to be called again, newest first',
      who: readers,
      query: Joi.object<OptOutsQuery>({ ...pageQuery, ...optOutsNarrowing }),
      pages: true,
      reply: Joi.array().items(
        Joi.object({
          e164: Joi.string().required(),
          how: Joi.string().required(),
          by: Joi.string().allow(null).required(),
          callId: Joi.string().allow(null).required(),
          campaignName: Joi.string().allow(null).required(),
          at: Joi.string().required(),
        }),
      ),
      errors: [],
      handle: async ({ query, http, reply }) => answerPage(http, reply, await pageOfOptOuts(database, query)),
    }),
    route({
      method: 'POST',
      path: '/api/opt-outs',
      example: { text: '+1 360 555 0117' },
      area,
      summary: 'Put numbers on the opt-out list, pasted or from a file; nobody takes them off again',
      who: operators,
      bodyLimit: 8 * 1024 * 1024,
      perMinute: 60,
      body: Joi.object<{ text: string }>({
        text: Joi.string().required().messages({ 'string.empty': 'Type or paste at least one number.' }),
      }),
      reply: Joi.object({
        added: count,
        already: count,
        faults: Joi.array()
          .items(Joi.object({ line: count, detail: Joi.string().required() }))
          .required(),
      }),
      errors: [],
      handle: async ({ body, caller }) => {
        const { numbers, faults } = readNumbers(body.text);
        if (numbers.length === 0)
          throw Problem.field('/text', faults[0]?.detail ?? 'Type or paste at least one number.');
        if (numbers.length > mostAtOnce)
          throw Problem.field('/text', `At most ${mostAtOnce.toLocaleString('en')} numbers at once.`);
        const distinct = [...new Set(numbers)];
        const entry = { how: distinct.length > 1 ? ('import' as const) : ('list' as const) };
        const added = await database.transaction((trx) =>
          addOptOuts(trx, distinct, { ...entry, byPerson: signedIn(caller).personId }, true),
        );
        return { added, already: distinct.length - added, faults: faults.slice(0, 100) };
      },
    }),
  ];
}
