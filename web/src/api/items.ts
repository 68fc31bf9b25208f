import type { DraftOf, ItemContract, ViewOf } from '@night-bell/core/contracts/item';
import { ask, ifMatch, token, type UsedBy } from './client.ts';

type AnyContract = ItemContract<string, unknown, unknown>;

/** How the items of a kind that fit on one page are read. */
export interface ListApi<View> {
  /** As the server tells of changes: its own, then those it shows something of. */
  kinds: readonly string[];
  list: () => Promise<View[]>;
  /** One of them; without, a change has the list read anew. */
  read?: (id: string) => Promise<{ item: View }>;
  /** The list's order is the server's, not by name. */
  inOrder?: boolean;
}

/** The routes of one kind of item, typed by its contract. */
export interface ItemApi<Draft, View> extends ListApi<View> {
  path: string;
  read(id: string): Promise<{ item: View; usedBy: UsedBy[] }>;
  create(draft: Draft): Promise<View>;
  change(id: string, version: number, draft: Draft): Promise<View>;
  retire(id: string, version: number): Promise<View>;
  reactivate(id: string, version: number): Promise<View>;
  publish(id: string, version: number): Promise<View>;
}

/**
 * One request, as the generated client makes them: an ApiProblem that says what to do when it was not taken. A file is the
 * body itself.
 */
export function send<Answer>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  { body, file, version }: { body?: unknown; file?: Blob; version?: number } = {},
): Promise<Answer> {
  const request = fetch(path, {
    method,
    headers: {
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
      ...(file === undefined ? {} : { 'content-type': file.type }),
      ...(method === 'GET' || token() === null ? {} : { 'x-night-bell-token': token()! }),
      ...(version === undefined ? {} : ifMatch(version)),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    ...(file === undefined ? {} : { body: file }),
  });
  return ask<Answer>(
    request.then(async (response) => {
      const answer: unknown = response.status === 204 ? null : await response.json().catch(() => null);
      return response.ok ? { data: answer as Answer, response } : { error: answer, response };
    }),
  );
}

/** The routes of a contract; `path` must be the contract's own, which the compiler sees to. */
export function itemApi<C extends AnyContract>(
  kind: string,
  path: C['path'],
  more: { with?: readonly string[]; inOrder?: boolean } = {},
): ItemApi<DraftOf<C>, ViewOf<C>> {
  const of = (id: string, verb = '') => `${path}/${id}${verb}`;
  return {
    kinds: [kind, ...(more.with ?? [])],
    path,
    inOrder: more.inOrder === true,
    list: () => send('GET', path),
    read: (id) => send('GET', of(id)),
    create: (draft) => send('POST', path, { body: draft }),
    change: (id, version, draft) => send('PUT', of(id), { body: draft, version }),
    retire: (id, version) => send('POST', of(id, '/retire'), { version }),
    reactivate: (id, version) => send('POST', of(id, '/reactivate'), { version }),
    publish: (id, version) => send('POST', of(id, '/publish'), { version }),
  };
}
