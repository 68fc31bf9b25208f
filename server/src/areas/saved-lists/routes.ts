import { Readable } from 'node:stream';
import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { job } from '@night-bell/core/contracts/jobs';
import { readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import { fileOfJob } from '../../jobs/jobs.ts';
import { uploadPartsOf } from '../../jobs/uploads.ts';
import { type ListName, listNames, savedLists } from '../../lists/registry.ts';
import type { SaveInput } from '../../lists/run-save.ts';
import { fileKinds, mediaTypes } from '../../lists/write-file.ts';
import { refuseOutside } from '../../security/script-callers.ts';
import type { Services } from '../../services.ts';
import { needsState, pageOfPeople, type PeopleQuery } from '../people/people.queries.ts';
import { everyPage } from '../../lists/saved-list.ts';

const area = 'Saved lists';
const mostMarked = 100_000;

interface SaveRequest {
  list: ListName;
  as: SaveInput['as'];
  query: Record<string, unknown>;
  ids: string[] | null;
}

/** Lists as files: made behind the page, kept for a day, fetched by whoever had them made. */
export function savedListRoutes({ database, jobs, live }: Services): Route[] {
  /** What the exchange alone knows is looked up now, so that the file is of this moment. */
  const idsNow = async (query: PeopleQuery): Promise<string[]> => {
    const ids: string[] = [];
    const pages = everyPage((page) =>
      pageOfPeople(database, { ...query, ...page }, () => live.exchange.view()),
    );
    for await (const some of pages) ids.push(...some.map(({ id }) => id));
    return ids;
  };

  return [
    route({
      method: 'POST',
      path: '/api/saved-lists',
      example: { list: 'calls', as: 'csv', query: { lost: true } },
      area,
      summary:
        'Save a list as CSV, XLSX or JSON Lines (people as vCard too), whole, narrowed or some of it, as a job',
      who: readers,
      bodyLimit: 5 * 1024 * 1024,
      perMinute: 120,
      body: Joi.object<SaveRequest>({
        list: Joi.string()
          .valid(...listNames)
          .required(),
        as: Joi.string()
          .valid(...fileKinds, 'vcf')
          .required(),
        query: Joi.object().unknown(true).default({}),
        ids: Joi.array()
          .items(Joi.string().guid())
          .min(1)
          .max(mostMarked)
          .allow(null)
          .default(null)
          .messages({ 'array.max': `At most ${mostMarked.toLocaleString('en')} rows are marked at once.` }),
      }),
      reply: objectSchema(job),
      errors: ['exchangeAway'],
      handle: async ({ body, caller }) => {
        const { list, as } = body;
        const me = signedIn(caller);
        if (me.script !== undefined) refuseOutside(me.script, savedLists[list].area);
        if (as === 'vcf' && list !== 'people')
          throw Problem.field('/as', 'Address cards are made of people only.');
        const { error, value } = savedLists[list].query.validate(body.query);
        if (error !== undefined)
          throw Problem.field(`/query/${error.details[0]!.path.join('/')}`, `${error.message}.`);
        let query = value as Record<string, unknown>;
        let ids = body.ids;
        if (list === 'people' && ids === null && needsState(query as unknown as PeopleQuery))
          [ids, query] = [await idsNow(query as unknown as PeopleQuery), {}];
        const rows = ids?.length ?? (await savedLists[list].count(database, query));
        // Instants and the like go into the job as text, and are read again as the list's query.
        const input: SaveInput = { list, as, query, ids, rows };
        return jobs.begin('saveList', input, me.personId);
      },
    }),
    route({
      method: 'GET',
      path: '/api/saved-lists/:id/file',
      area,
      summary: 'The file of a saved list, by its job; kept for a day',
      who: readers,
      params: idParams,
      reply: Joi.any(),
      errors: ['notFound', 'notAllowed'],
      handle: async ({ params, caller, reply }) => {
        const file = await fileOfJob(database, params.id);
        if (file === undefined)
          throw new Problem(
            'notFound',
            'There is no such file (any more): files are kept for a day. Save the list again.',
          );
        if (file.byId !== signedIn(caller).personId)
          throw new Problem('notAllowed', 'Whoever had the list saved fetches it. Save it yourself.');
        const kind = file.name.split('.').at(-1) as SaveInput['as'];
        void reply
          .type(mediaTypes[kind])
          .header('content-disposition', `attachment; filename="${file.name}"`)
          .send(Readable.from(uploadPartsOf(database, file.fileId)));
        await reply;
        return null;
      },
    }),
  ];
}
