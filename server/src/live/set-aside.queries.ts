import type { Knex } from 'knex';
import { faultWords } from './faults.ts';

export interface SetAside {
  what: 'event' | 'fact' | 'effect';
  /** Which kind of event, consequence or effect it is. */
  kind: string;
  seq: number | null;
  callIds: string[];
  why: unknown;
  content: unknown;
}

/** Keeps whole what could not be taken or written. JSON.stringify writes as text even what PostgreSQL's json refuses. */
export async function keepSetAside(trx: Knex, { why, content, callIds, ...rest }: SetAside): Promise<void> {
  await trx('set_aside').insert({
    ...rest,
    kind: faultWords(rest.kind),
    call_ids: callIds.map(faultWords),
    why: faultWords(why),
    content: JSON.stringify(content),
  });
}

export interface SetAsideView extends Omit<SetAside, 'why' | 'content'> {
  id: number;
  at: string;
  why: string;
  content: string;
  seen: boolean;
  seenBy: string | null;
}

/** What was set aside, latest first. */
export async function listSetAside(database: Knex, most: number): Promise<SetAsideView[]> {
  return database('set_aside as s')
    .leftJoin('item as p', 'p.id', 's.seen_by')
    .orderBy('s.id', 'desc')
    .limit(most)
    .select<SetAsideView[]>(
      's.id',
      database.raw(`to_char(s.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as at`),
      's.what',
      's.kind',
      's.seq',
      's.call_ids as callIds',
      's.why',
      's.content',
      database.raw('s.seen_at is not null as seen'),
      'p.name as seenBy',
    );
}

/** How many nobody has looked at yet, and of which kind the latest is. */
export async function unseenSetAside(database: Knex): Promise<{ count: number; kind: string }> {
  const row = await database('set_aside')
    .whereNull('seen_at')
    .first<{ count: number; kind: string | null }>(
      database.raw('count(*)::int as count'),
      database.raw('(array_agg(kind order by id desc))[1] as kind'),
    );
  return { count: row.count, kind: row.kind ?? '' };
}

/** Somebody has looked at them; false when there is none of this id. */
export async function markSeen(database: Knex, id: number, personId: string): Promise<boolean> {
  const changed = await database('set_aside')
    .where({ id })
    .update({
      seen_at: database.raw('coalesce(seen_at, now())'),
      seen_by: database.raw('coalesce(seen_by, ?)', [personId]),
    });
  return changed === 1;
}
