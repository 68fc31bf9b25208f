import Joi from 'joi';
import { campaigns } from '@night-bell/core/contracts/campaigns';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import type { ContactMapping } from '@night-bell/core/outbound/contact-list';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { scriptFields } from '../desk/script.ts';
import { contactsNarrowing, findContacts } from './contacts.queries.ts';
import { job } from '@night-bell/core/contracts/jobs';
import { objectSchema } from '@night-bell/core/contracts/item';
import { keepUpload } from '../../jobs/uploads.ts';
import { importContacts, readList } from './import.ts';
import { campaignProgress } from './progress.queries.ts';
import { campaignItem, moveCampaign } from './store.ts';

const { area } = campaigns;
const shownRows = 12;
/** A list of 100,000 contacts with a few own fields is about 10 MB. */
const listLimit = 40 * 1024 * 1024;
const fileLimit = 256 * 1024 * 1024;

const count = Joi.number().integer().required();
const textOrNull = Joi.string().allow(null).required();

const column = Joi.number().integer().min(0).max(200);
const mappingSchema = Joi.object<ContactMapping, true>({
  phone: column.allow(null).required(),
  name: column.allow(null).required(),
  firstName: column.allow(null).required(),
  lastName: column.allow(null).required(),
  fields: Joi.array()
    .items(
      Joi.object({
        key: Joi.string()
          .pattern(/^[a-z][a-z0-9_]{0,39}$/)
          .required()
          .messages({ 'string.pattern.base': 'A field is named with a-z, 0-9 and underscore.' }),
        column: column.required(),
      }),
    )
    .max(60)
    .required(),
});

/** A mapping as it stands in an address: JSON. */
function mappingOf(text: string): ContactMapping | null {
  try {
    const { value, error } = mappingSchema.validate(JSON.parse(text));
    return error === undefined ? value : null;
  } catch {
    return null;
  }
}

const listBody = Joi.object<{ text: string; mapping: ContactMapping | null }>({
  text: Joi.string().required().messages({ 'string.empty': 'The file is empty.' }),
  mapping: mappingSchema.allow(null).default(null),
});

const faultsView = {
  good: count,
  faulty: count,
  uncertainZones: count,
  withoutZone: count,
  byReason: Joi.object().pattern(Joi.string(), Joi.number().integer()).required(),
  faults: Joi.array()
    .items(
      Joi.object({
        row: count,
        column: count,
        cell: Joi.string().allow('').required(),
        why: Joi.string().required(),
        detail: Joi.string().required(),
      }),
    )
    .required(),
};

export function campaignRoutes(services: Services): Route[] {
  const { database, jobs } = services;
  return [
    ...itemRoutes(services, campaignItem),
    ...(['start', 'pause', 'finish'] as const).map((what) =>
      route({
        method: 'POST',
        path: `/api/campaigns/:id/${what}`,
        area,
        summary: {
          start: 'Begin dialling, or go on with it',
          pause: 'Stop dialling; calls that ring go on, contacts stay',
          finish: 'End the campaign; it can be started again',
        }[what],
        who: operators,
        params: idParams,
        reply: objectSchema(campaigns.view),
        errors: ['notFound', 'notNow'],
        handle: async ({ params, caller }) => {
          await database.transaction((trx) =>
            moveCampaign(trx, params.id, what, authorOf(signedIn(caller).personId)),
          );
          return campaignItem.get(database, params.id);
        },
      }),
    ),
    route({
      method: 'GET',
      path: '/api/campaigns/:id/fields',
      area,
      summary: 'Merge fields that the script of this campaign may use',
      who: readers,
      params: idParams,
      reply: Joi.array().items(Joi.string()),
      errors: ['notFound'],
      handle: async ({ params }) =>
        scriptFields(database, (await campaignItem.get(database, params.id)).fields),
    }),
    route({
      method: 'POST',
      path: '/api/campaigns/:id/contacts/preview',
      area,
      summary: 'Read and check a contact list (CSV) without keeping it',
      who: editors,
      params: idParams,
      body: listBody,
      bodyLimit: listLimit,
      perMinute: 60,
      reply: Joi.object({
        separator: Joi.string().required(),
        headers: Joi.array().items(Joi.string().allow('')).required(),
        rows: Joi.array()
          .items(Joi.array().items(Joi.string().allow('')))
          .required(),
        total: count,
        mapping: mappingSchema.required(),
        checked: Joi.object(faultsView).allow(null).required(),
      }),
      errors: ['notFound'],
      handle: async ({ params, body }) => {
        await campaignItem.get(database, params.id);
        const { table, mapping, report } = await readList(database, params.id, body.text, body.mapping);
        return {
          separator: table.separator,
          headers: table.headers,
          rows: table.rows.slice(0, shownRows),
          total: table.rows.length,
          mapping,
          checked: report,
        };
      },
    }),
    route({
      method: 'POST',
      path: '/api/campaigns/:id/contacts',
      area,
      summary: 'Add the good rows of a contact list; faulty ones are left out and named',
      who: editors,
      params: idParams,
      body: listBody,
      bodyLimit: listLimit,
      perMinute: 60,
      reply: Joi.object(faultsView),
      errors: ['notFound'],
      handle: async ({ params, body }) =>
        database.transaction((trx) => importContacts(trx, params.id, body.text, body.mapping)),
    }),
    route({
      method: 'POST',
      path: '/api/campaigns/:id/contacts/file',
      area,
      summary: 'Bring a contact list of any length as a job: text/csv as the body, all good rows or none',
      who: editors,
      params: idParams,
      query: Joi.object<{ mapping: ContactMapping | null }>({
        mapping: Joi.string()
          .max(20_000)
          .custom((text: string, helpers) => mappingOf(text) ?? helpers.error('any.invalid'))
          .default(null)
          .messages({ 'any.invalid': 'This is no mapping of columns.' }),
      }),
      takes: 'text/csv',
      bodyLimit: fileLimit,
      perMinute: 30,
      reply: objectSchema(job),
      errors: ['notFound'],
      handle: async ({ params, query, file, caller }) => {
        await campaignItem.get(database, params.id);
        const { id: uploadId, lines } = await keepUpload(database, file, fileLimit);
        const input = {
          campaignId: params.id,
          mapping: query.mapping,
          uploadId,
          rows: Math.max(0, lines - 1),
        };
        return jobs.begin('importContacts', input, signedIn(caller).personId);
      },
    }),
    route({
      method: 'GET',
      path: '/api/campaigns/:id/contacts',
      area,
      summary: 'Contacts in list order, by state, name or number',
      who: readers,
      params: idParams,
      query: Joi.object<{ state?: string; text?: string; behind?: number; limit: number }>({
        ...contactsNarrowing,
        behind: Joi.number().integer().min(0),
        limit: Joi.number().integer().min(1).max(500).default(200),
      }),
      reply: Joi.array().items(
        Joi.object({
          id: Joi.string().required(),
          position: count,
          e164: Joi.string().required(),
          name: Joi.string().required(),
          fields: Joi.object().pattern(Joi.string(), Joi.string().allow('')).required(),
          zones: Joi.array().items(Joi.string()).required(),
          state: Joi.string().required(),
          dueAt: textOrNull,
          attempts: count,
          lastResult: textOrNull,
          lastCallId: textOrNull,
          lastAt: textOrNull,
          outcome: textOrNull,
        }),
      ),
      errors: [],
      handle: ({ params, query }) => findContacts(database, params.id, query),
    }),
    route({
      method: 'GET',
      path: '/api/campaigns/:id/progress',
      area,
      summary: 'How far a campaign is: contacts by state, outcomes, and its day in quarters of an hour',
      who: readers,
      params: idParams,
      reply: Joi.object({
        states: Joi.array()
          .items(Joi.object({ state: Joi.string().required(), count }))
          .required(),
        later: count,
        optedOut: count,
        outcomes: Joi.array()
          .items(Joi.object({ outcome: textOrNull, count }))
          .required(),
        quarters: Joi.array()
          .items(
            Joi.object({ at: Joi.string().required(), attempts: count, answered: count, abandoned: count }),
          )
          .required(),
        results: Joi.array()
          .items(Joi.object({ result: Joi.string().required(), count }))
          .required(),
      }),
      errors: [],
      handle: ({ params }) => campaignProgress(database, params.id, new Date(Date.now() - 12 * 3_600_000)),
    }),
  ];
}
