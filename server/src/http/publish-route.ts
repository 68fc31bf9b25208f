import type { Knex } from 'knex';
import { type ItemContract, objectSchema } from '@night-bell/core/contracts/item';
import { editors } from '@night-bell/core/model/roles';
import type { Services } from '../services.ts';
import type { Permission } from './item-routes.ts';
import { type Author, authorOf } from '../spine/items.ts';
import { idParams, route, type Route, signedIn } from './route.ts';

/** What an item that has a draft has beside the six routes of a list. */
export function publishRoute<View>(
  { database }: Pick<Services, 'database'>,
  contract: ItemContract<string, unknown, View>,
  get: (database: Knex, id: string) => Promise<View>,
  publish: (trx: Knex.Transaction, id: string, version: number, author: Author) => Promise<void>,
  permission?: Permission,
): Route {
  return route({
    method: 'POST',
    path: `${contract.path}/:id/publish`,
    area: contract.area,
    summary: `Publish ${contract.one}: from now on callers meet it as it is written`,
    who: permission?.who ?? editors,
    params: idParams,
    ifMatch: true,
    reply: objectSchema(contract.view),
    errors: ['notFound', 'changedMeanwhile', 'versionNeeded', 'notNow'],
    handle: async ({ params, version, caller }) => {
      const me = signedIn(caller);
      await permission?.check(database, me, params.id);
      await database.transaction((trx) => publish(trx, params.id, version, authorOf(me.personId)));
      return get(database, params.id);
    },
  });
}
