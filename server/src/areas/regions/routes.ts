import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { job } from '@night-bell/core/contracts/jobs';
import {
  regionCoverage,
  regionRow,
  regions,
  regionsPreview,
  regionsPut,
  regionsTaken,
  regionsTyped,
} from '@night-bell/core/contracts/regions';
import { editors, readers } from '@night-bell/core/model/roles';
import { mostRegionRows, typedRegions } from '@night-bell/core/plan/regions';
import { itemRoutes } from '../../http/item-routes.ts';
import { answerPage, type PageQuery, pageQuery } from '../../http/paging.ts';
import { Problem } from '../../http/problems.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import { keepUpload } from '../../jobs/uploads.ts';
import type { Services } from '../../services.ts';
import { checkDestination } from '../../spine/destinations.ts';
import { authorOf } from '../../spine/items.ts';
import { caughtBy, coverageOf, days } from './coverage.ts';
import { namesNow, pageOfRows, putRows, takeRows } from './rows.queries.ts';
import { regionItem, rowsChanged } from './store.ts';

const { area } = regions;
const fileLimit = 32 * 1024 * 1024;
const shownFaults = 200;
const typedLimit = 1024 * 1024;
const rowsOf = `${regions.path}/:id/rows`;

export function regionRoutes(services: Services): Route[] {
  const { database, jobs } = services;
  return [
    ...itemRoutes(services, regionItem),
    route({
      method: 'GET',
      path: rowsOf,
      area,
      summary: 'Rows of a region table by prefix, a stretch at a time',
      who: readers,
      params: idParams,
      query: Joi.object<PageQuery & { search?: string }>({
        ...pageQuery,
        search: Joi.string().allow('').max(80),
      }),
      pages: true,
      reply: Joi.array().items(objectSchema(regionRow).optional()),
      errors: [],
      handle: async ({ params, query, http, reply }) =>
        answerPage(http, reply, await pageOfRows(database, params.id, query)),
    }),
    route({
      method: 'POST',
      path: `${rowsOf}/preview`,
      example: { text: '206\nOregon', to: { kind: 'end' } },
      area,
      summary:
        'What would come of typed regions: rows, what they replace, and how many callers they would have caught',
      who: readers,
      params: idParams,
      bodyLimit: typedLimit,
      perMinute: 120,
      body: objectSchema(regionsTyped),
      reply: objectSchema(regionsPreview),
      errors: [],
      handle: async ({ params, body }) => {
        const { rows, faults } = typedRegions(body.text);
        const prefixes = rows.map(({ prefix }) => prefix);
        const [names, counts] = await Promise.all([
          namesNow(database, params.id, prefixes),
          caughtBy(database, prefixes),
        ]);
        return {
          rows: rows.map(({ prefix, place }) => ({ prefix, place, before: names.get(prefix) ?? null })),
          faults: faults.slice(0, shownFaults),
          ...{ days, ...counts },
        };
      },
    }),
    route({
      method: 'POST',
      path: rowsOf,
      example: { text: '206\nOregon', to: { kind: 'end' } },
      area,
      summary: 'Send regions somewhere: area codes, beginnings of numbers and places, one a line',
      who: editors,
      params: idParams,
      bodyLimit: typedLimit,
      perMinute: 60,
      body: objectSchema(regionsTyped),
      reply: objectSchema(regionsPut),
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        const table = await regionItem.get(database, params.id);
        const { rows, faults } = typedRegions(body.text);
        if (rows.length === 0)
          throw Problem.field('/text', faults[0]?.detail ?? 'Write at least one area code, number or place.');
        if (table.rows + rows.length > mostRegionRows)
          throw Problem.field('/text', `A table has at most ${mostRegionRows.toLocaleString('en')} rows.`);
        const author = authorOf(signedIn(caller).personId);
        const written = await database.transaction(async (trx) => {
          await checkDestination(trx, body.to, '/to');
          const counts = await putRows(
            trx,
            params.id,
            rows.map(({ prefix, place }) => ({ prefix, place, to: body.to })),
          );
          await rowsChanged(trx, params.id, { ...counts, takenOut: 0 }, author);
          return counts;
        });
        return { ...written, faults: faults.slice(0, shownFaults) };
      },
    }),
    route({
      method: 'POST',
      path: `${rowsOf}/take-out`,
      area,
      summary: 'Take rows out of a region table',
      who: editors,
      params: idParams,
      body: objectSchema(regionsTaken),
      reply: Joi.object({ takenOut: Joi.number().integer().required() }),
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        await regionItem.get(database, params.id);
        const author = authorOf(signedIn(caller).personId);
        const takenOut = await database.transaction(async (trx) => {
          const count = await takeRows(trx, params.id, body.prefixes);
          await rowsChanged(trx, params.id, { added: 0, changed: 0, takenOut: count }, author);
          return count;
        });
        return { takenOut };
      },
    }),
    route({
      method: 'POST',
      path: `${regions.path}/:id/file`,
      area,
      summary: 'Bring regions from a file as a job: text/csv with a column region and a column destination',
      who: editors,
      params: idParams,
      takes: 'text/csv',
      bodyLimit: fileLimit,
      perMinute: 30,
      reply: objectSchema(job),
      errors: ['notFound'],
      handle: async ({ params, file, caller }) => {
        await regionItem.get(database, params.id);
        const { id: uploadId, lines } = await keepUpload(database, file, fileLimit);
        const input = { tableId: params.id, uploadId, rows: Math.max(0, lines - 1) };
        return jobs.begin('importRegions', input, signedIn(caller).personId);
      },
    }),
    route({
      method: 'GET',
      path: `${regions.path}/:id/coverage`,
      area,
      summary:
        'Which callers of the last month each row would have caught, whom none would, and which rows overlap',
      who: readers,
      perMinute: 60,
      params: idParams,
      reply: objectSchema(regionCoverage),
      errors: ['notFound'],
      handle: async ({ params }) => {
        await regionItem.get(database, params.id);
        return coverageOf(database, params.id);
      },
    }),
  ];
}
