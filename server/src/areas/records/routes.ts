import Joi from 'joi';
import { connectionDraft } from '@night-bell/core/model/connections.schema';
import { merge } from '@night-bell/core/match/merge';
import { editors, operators, readers, roles } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { answerPage, pageQuery } from '../../http/paging.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { RecordSync } from '../../jobs/record-sync.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { recordFields } from '../desk/script.ts';
import { type AllowedAddress, allowAddress, disallowAddress, listAllowed } from './allowed-addresses.ts';
import { refuseForeignRecord } from './access.ts';
import { Crm, CrmFault } from './crm.ts';
import {
  changeConnection,
  type ConnectionView,
  connectionDoors,
  createConnection,
  getConnection,
  getRecord,
  listConnections,
  reactivateConnection,
  retireConnection,
} from './store.ts';
import { pageOfRecords, type RecordRow, recordsNarrowing, type RecordsQuery } from './records.queries.ts';

const area = 'Records';

const connectionView = Joi.object<ConnectionView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  address: Joi.string().required(),
  link: Joi.string().allow('').required(),
  records: Joi.number().integer().required(),
  okAt: Joi.string().allow(null).required(),
  fault: Joi.string().allow(null).required(),
  faultAt: Joi.string().allow(null).required(),
  waiting: Joi.number().integer().required(),
});

const addressParams = Joi.object<{ address: string }>({
  address: Joi.string()
    .lowercase()
    .max(260)
    .pattern(/^(\[[0-9a-f:.]+\]|[a-z0-9.-]+):\d{1,5}$/)
    .required()
    .messages({ 'string.pattern.base': 'An address is a host and a port, such as records.example:8443.' }),
});

const fields = Joi.object().pattern(Joi.string(), Joi.string().allow('')).required();

export const recordView = Joi.object({
  id: Joi.string().required(),
  externalId: Joi.string().required(),
  name: Joi.string().required(),
  owner: Joi.object({
    login: Joi.string().required(),
    personId: Joi.string().allow(null).required(),
    name: Joi.string().allow(null).required(),
  })
    .allow(null)
    .required(),
  fields,
  numbers: Joi.array().items(Joi.string()).required(),
  readAt: Joi.string().required(),
  connectionName: Joi.string().required(),
  /** The record's own page, fields filled in; null when the connection has no link. */
  link: Joi.string().allow(null).required(),
});

/** A record with the link to its page. */
export async function recordReply(database: Services['database'], id: string) {
  const { linkTemplate, ...record } = await getRecord(database, id);
  const values: Record<string, string> = { 'record.id': record.externalId, 'record.name': record.name };
  for (const [key, value] of Object.entries(record.fields)) values[`record.${key}`] = value;
  return { ...record, link: linkTemplate === '' ? null : merge(linkTemplate, values, encodeURIComponent) };
}

export function recordRoutes(
  { database, seal, live, outgoing, allowedByOperator }: Services,
  sync: RecordSync,
): Route[] {
  const guarded = ['notFound', 'changedMeanwhile', 'versionNeeded', 'notNow'] as const;
  return [
    route({
      method: 'GET',
      path: '/api/connections',
      area,
      summary: 'Connections to customer systems, how they are, and what waits to be written back',
      who: readers,
      reply: Joi.array().items(connectionView),
      errors: [],
      handle: () => listConnections(database),
    }),
    route({
      method: 'POST',
      path: '/api/connections',
      area,
      summary: 'Connect a customer system; its records are read at once',
      who: editors,
      body: connectionDraft,
      reply: connectionView,
      errors: ['taken', 'notNow'],
      handle: async ({ body, caller }) => {
        const id = await database.transaction((trx) =>
          createConnection(trx, seal, body, authorOf(signedIn(caller).personId)),
        );
        await sync.readAll();
        return getConnection(database, id);
      },
    }),
    route({
      method: 'PUT',
      path: '/api/connections/:id',
      area,
      summary: 'Change a connection; a key left out stays as it is',
      who: editors,
      params: idParams,
      body: connectionDraft,
      ifMatch: true,
      reply: connectionView,
      errors: [...guarded, 'taken'],
      handle: async ({ params, body, version, caller }) => {
        await database.transaction((trx) =>
          changeConnection(trx, seal, params.id, version, body, authorOf(signedIn(caller).personId)),
        );
        await sync.readAll();
        return getConnection(database, params.id);
      },
    }),
    ...(['retire', 'reactivate'] as const).map((what) =>
      route({
        method: 'POST',
        path: `/api/connections/:id/${what}`,
        area,
        summary: what === 'retire' ? 'Stop asking this customer system' : 'Ask this customer system again',
        who: editors,
        params: idParams,
        ifMatch: true,
        reply: connectionView,
        errors: [...guarded, 'taken'],
        handle: async ({ params, version, caller }) => {
          const change = what === 'retire' ? retireConnection : reactivateConnection;
          await database.transaction((trx) =>
            change(trx, params.id, version, authorOf(signedIn(caller).personId)),
          );
          return getConnection(database, params.id);
        },
      }),
    ),
    route({
      method: 'POST',
      path: '/api/connections/test',
      area,
      summary: 'Ask a customer system who it is, with the stored key or with the one sent',
      who: editors,
      perMinute: 30,
      body: Joi.object<{ id: string | null; address: string; key?: string }>({
        id: Joi.string().guid().allow(null).default(null),
        address: Joi.string()
          .uri({ scheme: ['http', 'https'] })
          .required()
          .messages({ 'string.uri': 'An address begins with http:// or https://.' }),
        key: Joi.string().max(400),
      }),
      reply: Joi.object({
        ok: Joi.boolean().required(),
        detail: Joi.string().required(),
        afterMs: Joi.number().integer().required(),
        /** Set when the address was refused: `host:port` that may be allowed. */
        mayAllow: Joi.string().allow(null).required(),
      }),
      errors: ['notFound'],
      handle: async ({ body }) => {
        const stored = (await connectionDoors(database, seal)).find((door) => door.id === body.id);
        // The stored key goes to the stored address, and nowhere else.
        const key = body.key ?? (stored?.address === body.address ? stored.key : undefined);
        if (key === undefined && stored !== undefined)
          throw Problem.field('/key', 'The address is another one: paste the key for it.');
        if (key === undefined) throw Problem.field('/key', 'Paste the key the customer system gave you.');
        const began = Date.now();
        try {
          const { name, records } = await new Crm(outgoing, body.address, key).status();
          const detail = `${name} answers, with ${records.toLocaleString('en')} records.`;
          return { ok: true, detail, afterMs: Date.now() - began, mayAllow: null };
        } catch (error) {
          if (!(error instanceof CrmFault)) throw error;
          return { ok: false, detail: error.detail, afterMs: Date.now() - began, mayAllow: error.where };
        }
      },
    }),
    route({
      method: 'GET',
      path: '/api/allowed-addresses',
      area,
      summary: 'Addresses on this machine or a private network that may be asked',
      who: readers,
      reply: Joi.array().items(
        Joi.object<AllowedAddress, true>({
          address: Joi.string().required(),
          by: Joi.string().allow(null).required(),
          at: Joi.string().allow(null).required(),
          byOperator: Joi.boolean().required(),
        }),
      ),
      errors: [],
      handle: () => listAllowed(database, allowedByOperator),
    }),
    route({
      method: 'PUT',
      path: '/api/allowed-addresses/:address',
      area,
      summary: 'Let an address on this machine or a private network be asked, as host:port',
      who: editors,
      params: addressParams,
      reply: nothing.allow(null),
      errors: [],
      handle: async ({ params, caller }) => {
        await allowAddress(database, params.address, signedIn(caller).personId);
        return null;
      },
    }),
    route({
      method: 'DELETE',
      path: '/api/allowed-addresses/:address',
      area,
      summary: 'No longer let this address be asked',
      who: editors,
      params: addressParams,
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params }) => {
        if (!(await disallowAddress(database, params.address)))
          throw new Problem(
            'notFound',
            'This address is not on the list, or whoever runs this server put it there.',
          );
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/connections/read',
      area,
      summary: 'Read what changed in the customer system now',
      who: operators,
      perMinute: 30,
      reply: Joi.object({ ok: Joi.boolean().required(), detail: Joi.string().required() }),
      errors: [],
      handle: async () => {
        const fault = await sync.readAll();
        return fault === null
          ? { ok: true, detail: 'Everything that changed is read.' }
          : { ok: false, detail: fault.detail };
      },
    }),
    route({
      method: 'GET',
      path: '/api/records',
      area,
      summary: 'Records as last read, by name, a stretch at a time',
      who: readers,
      query: Joi.object<RecordsQuery>({ ...pageQuery, ...recordsNarrowing }),
      pages: true,
      reply: Joi.array().items(
        Joi.object<RecordRow, true>({
          id: Joi.string().required(),
          name: Joi.string().required(),
          owner: Joi.string().allow(null).required(),
          numbers: Joi.array().items(Joi.string()).required(),
          fields,
        }),
      ),
      errors: [],
      handle: async ({ query, http, reply }) => answerPage(http, reply, await pageOfRecords(database, query)),
    }),
    route({
      method: 'GET',
      path: '/api/record-fields',
      area,
      summary:
        "The fields of the customer system's records, by which they can be merged into links and scripts",
      who: readers,
      reply: Joi.array().items(Joi.string()),
      errors: [],
      handle: () => recordFields(database),
    }),
    route({
      method: 'GET',
      path: '/api/records/:id',
      area,
      summary:
        'One record as last read, with the link to its own page; for an agent, of their calls and queues only',
      who: roles,
      params: idParams,
      reply: recordView,
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        await refuseForeignRecord(database, live, signedIn(caller), params.id);
        return recordReply(database, params.id);
      },
    }),
  ];
}
