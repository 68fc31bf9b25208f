import Joi from 'joi';
import type { Knex } from 'knex';
import { type ItemContract, objectSchema } from '@night-bell/core/contracts/item';
import { editors, readers, type Role } from '@night-bell/core/model/roles';
import type { Services } from '../services.ts';
import { type ItemListing, itemsQuery, pageOfItems } from '../spine/item-listing.ts';
import type { ItemStore } from '../spine/item-store.ts';
import { authorOf, type ItemKind, usedBy } from '../spine/items.ts';
import { answerPage } from './paging.ts';
import { usedByView } from './used-by-view.ts';
import { type Caller, idParams, route, type Route, signedIn } from './route.ts';

/** What the routes need of an item: its contract, and how it is read and written. */
export interface RoutedItem<Draft, View> extends Omit<ItemStore<Draft, View>, 'snapshot'> {
  kind: ItemKind;
  contract: ItemContract<string, Draft, View>;
  listing?: ItemListing;
}

export interface ItemRouteOptions<Draft> {
  /** Who may change one, where more than administrators may. */
  changing?: Permission;
  /** Keeps what is only written, apart from what history keeps. */
  written?: (trx: Knex.Transaction, id: string, draft: Draft) => Promise<void>;
}

/** Who may come as far as the item, and who of them may do it to this one. */
export interface Permission {
  who: readonly Role[];
  /** Throws a sentence that says who could. */
  check: (trx: Knex, caller: Caller, id: string) => Promise<void>;
}

/**
 * The six routes that every list of items has: list, make, read with what uses it, change, deactivate, reactivate.
 * Reading is for those who may see the set-up, changing for administrators, or for whom `changing` names.
 */
export function itemRoutes<Draft, View extends { id: string }>(
  { database }: Pick<Services, 'database'>,
  store: RoutedItem<Draft, View>,
  { changing, written }: ItemRouteOptions<Draft> = {},
): Route[] {
  const { area, path, one, many, example } = store.contract;
  const draft = objectSchema(store.contract.draft);
  const view = objectSchema(store.contract.view);
  const within = <T>(work: (trx: Knex.Transaction) => Promise<T>) => database.transaction(work);
  const guarded = ['notFound', 'changedMeanwhile', 'versionNeeded', 'notNow'] as const;
  return [
    route({
      method: 'GET',
      path,
      area,
      summary: `All ${many}; or those that fit, and with a limit a stretch of them at a time`,
      who: readers,
      query: itemsQuery(store.listing),
      pages: true,
      reply: Joi.array().items(view.optional()),
      errors: [],
      handle: async ({ query, http, reply }) =>
        answerPage(http, reply, await pageOfItems(database, store.kind, store.listing, store.list, query)),
    }),
    route({
      method: 'POST',
      path,
      ...(example === undefined ? {} : { example: example as Record<string, unknown> }),
      area,
      summary: `Make ${one}`,
      who: editors,
      body: draft,
      reply: view,
      errors: ['taken'],
      handle: async ({ body, caller }) => {
        const id = await within(async (trx) => {
          const made = await store.create(trx, body, authorOf(signedIn(caller).personId));
          await written?.(trx, made, body);
          return made;
        });
        return store.get(database, id);
      },
    }),
    route({
      method: 'GET',
      path: `${path}/:id`,
      area,
      summary: `Read ${one}, and what uses it`,
      who: readers,
      params: idParams,
      reply: Joi.object({ item: view.required(), usedBy: usedByView.required() }),
      errors: ['notFound'],
      handle: async ({ params }) => ({
        item: await store.get(database, params.id),
        usedBy: await usedBy(database, params.id),
      }),
    }),
    route({
      method: 'PUT',
      path: `${path}/:id`,
      area,
      summary: `Change ${one}`,
      who: changing?.who ?? editors,
      params: idParams,
      body: draft,
      ifMatch: true,
      reply: view,
      errors: [...guarded, 'taken'],
      handle: async ({ params, body, version, caller }) => {
        const me = signedIn(caller);
        await within(async (trx) => {
          await changing?.check(trx, me, params.id);
          await store.change(trx, params.id, version, body, authorOf(me.personId));
          await written?.(trx, params.id, body);
        });
        return store.get(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${path}/:id/retire`,
      area,
      summary: `Deactivate ${one}; its history stays`,
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: view,
      errors: [...guarded, 'inUse'],
      handle: async ({ params, version, caller }) => {
        await within((trx) => store.retire(trx, params.id, version, authorOf(signedIn(caller).personId)));
        return store.get(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${path}/:id/reactivate`,
      area,
      summary: `Bring ${one} back`,
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: view,
      errors: [...guarded, 'taken'],
      handle: async ({ params, version, caller }) => {
        await within((trx) => store.reactivate(trx, params.id, version, authorOf(signedIn(caller).personId)));
        return store.get(database, params.id);
      },
    }),
  ];
}
