import type { Knex } from 'knex';

/**
 * How many messages each box holds, as the exchange should know it before it reads its inbox: what was deleted or brought
 * back and waits there is not counted yet.
 */
export async function heldByBox(database: Knex): Promise<Map<string, number>> {
  const { rows } = await database.raw<{ rows: { id: string; held: number }[] }>(
    `select v.id, (coalesce(m.held, 0) - coalesce(w.by, 0))::int as held
     from voicemail_box v
     left join (select box_id, count(*) as held from message where deleted_at is null group by box_id) m on m.box_id = v.id
     left join (select (body->>'boxId')::uuid as box_id, sum((body->>'by')::int) as by from exchange_inbox
                where done_seq is null and refusal is null and body->>'kind' = 'messagesChanged' group by 1) w
       on w.box_id = v.id
     where m.held is not null or w.by is not null`,
  );
  return new Map(rows.map(({ id, held }) => [id, held]));
}
