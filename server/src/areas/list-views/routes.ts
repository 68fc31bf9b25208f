import { columnChoice, listAsked, listViewDraft, waysToLook } from '@night-bell/core/contracts/list-views';
import { objectSchema } from '@night-bell/core/contracts/item';
import { operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { type Caller, idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { chooseColumns, dropView, keepView, waysToLookAt } from './store.ts';

const area = 'Views of lists';

/** Views are people's: a key for scripts keeps none. */
function personOf(caller: Caller | null): string {
  const { personId, script } = signedIn(caller);
  if (script !== undefined) throw new Problem('notAllowed', 'Only people keep views.');
  return personId;
}

export function listViewRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/list-views',
      area,
      summary: 'The views of a list that one may take, and the columns one chose for it',
      who: readers,
      query: objectSchema(listAsked),
      reply: waysToLook.schema,
      errors: [],
      handle: ({ query, caller }) => waysToLookAt(database, personOf(caller), query.list),
    }),
    route({
      method: 'POST',
      path: '/api/list-views',
      area,
      summary: 'Keep how a list is looked at, under a name; one of the same name is replaced',
      who: readers,
      body: objectSchema(listViewDraft),
      reply: waysToLook.schema,
      errors: ['notNow'],
      example: { list: 'people', name: 'Without a phone', query: 'phone=none', columns: null },
      handle: async ({ body, caller }) => {
        const me = signedIn(caller);
        const personId = personOf(caller);
        if (body.shared && !operators.includes(me.role))
          throw Problem.field(
            '/shared',
            'Administrators and supervisors keep views for everybody.',
            'notAllowed',
          );
        await database.transaction((trx) => keepView(trx, personId, body));
        return waysToLookAt(database, personId, body.list);
      },
    }),
    route({
      method: 'DELETE',
      path: '/api/list-views/:id',
      area,
      summary: 'Delete a view; an administrator also one that everybody sees',
      who: readers,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        const who = {
          personId: personOf(caller),
          isAdministrator: signedIn(caller).role === 'administrator',
        };
        await database.transaction((trx) => dropView(trx, who, params.id));
        return null;
      },
    }),
    route({
      method: 'PUT',
      path: '/api/column-choices/:list',
      area,
      summary: 'Choose the columns of a list; null for those it has of itself',
      who: readers,
      params: objectSchema(listAsked),
      body: objectSchema(columnChoice),
      reply: nothing.allow(null),
      errors: [],
      handle: async ({ params, body, caller }) => {
        await chooseColumns(database, personOf(caller), params.list, body.columns);
        return null;
      },
    }),
  ];
}
