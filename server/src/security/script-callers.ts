import type { FastifyRequest } from 'fastify';
import type { Role } from '@night-bell/core/model/roles';
import type { Database } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';

/** A script that calls with a key (RFC 6750, bearer token in the Authorization header). */
export interface ScriptCaller {
  keyId: string;
  name: string;
  role: Role;
  /** Empty for all. */
  areas: readonly string[];
  /** Under whose name its changes stand. */
  personId: string;
}

/** What only people do, by headings of the API: sign in, live calls at their desk, and keys themselves. */
export const closedToScripts: ReadonlySet<string> = new Set(['Sign-in', 'Desk', 'Keys of scripts']);

/** The secret that came with a request; null when there is none. */
export function secretIn(request: FastifyRequest): string | null {
  return /^Bearer (\S{20,200})$/i.exec(request.headers.authorization ?? '')?.[1] ?? null;
}

/** Whose secret has this keyed hash; null when it is nobody's any more. Says at most once a minute that it was used. */
export async function findScript(database: Database, hash: string): Promise<ScriptCaller | null> {
  const { rows } = await database.raw<{ rows: (ScriptCaller & { used: boolean })[] }>(
    `select k.id as "keyId", i.name, k.role, k.areas, k.made_by as "personId",
       k.last_used_at > now() - interval '1 minute' as used
     from script_key k join item i on i.id = k.id
     where k.secret_hash = ? and i.retired_at is null`,
    [hash],
  );
  const row = rows[0];
  if (row === undefined) return null;
  const { used, ...script } = row;
  if (!used)
    await database('script_key').where({ id: script.keyId }).update({ last_used_at: database.fn.now() });
  return script;
}

/** Throws a sentence when the key is not for this heading. */
export function refuseOutside({ name, areas }: ScriptCaller, area: string): void {
  if (closedToScripts.has(area))
    throw new Problem('notAllowed', 'This is for people: sign in. A key of a script cannot do it.');
  if (areas.length > 0 && !areas.includes(area))
    throw new Problem(
      'notAllowed',
      `The key ${name} is kept to: ${areas.join(', ')}. This is under ${area}.`,
    );
}
