import type { Database } from '../../database/connection.ts';
import { tellPages } from '../../spine/items.ts';
import { tellExchange } from './messages.ts';

const atOnce = 1_000;

/**
 * What is over: messages deleted before today (by the installation's clock), and those older than their box keeps that
 * nobody kept. Sounds go with the last message that has them. Some at a time, until nothing is left.
 */
export async function deleteWhatIsOver(database: Database): Promise<number> {
  let all = 0;
  for (;;) {
    const count = await database.transaction(async (trx) => {
      const { rows } = await trx.raw<{ rows: { box_id: string; held: boolean }[] }>(
        `with over as (
           select m.id from message m join voicemail_box v on v.id = m.box_id
           where m.deleted_at < date_trunc('day', now() at time zone (select time_zone from installation))
               at time zone (select time_zone from installation)
             or (m.state <> 'kept' and m.deleted_at is null and m.at < now() - make_interval(days => v.keep_days))
           limit ?)
         delete from message m using over where m.id = over.id
         returning m.box_id, m.deleted_at is null as held`,
        [atOnce],
      );
      const held = new Map<string, number>();
      for (const row of rows) if (row.held) held.set(row.box_id, (held.get(row.box_id) ?? 0) + 1);
      await tellExchange(trx, held, -1);
      for (const boxId of new Set(rows.map((row) => row.box_id))) await tellPages(trx, 'voicemail', boxId);
      await trx.raw(
        `delete from message_sound s where s.at < now() - interval '1 hour'
           and not exists (select 1 from message m where m.call_id = s.call_id)`,
      );
      return rows.length;
    });
    all += count;
    if (count < atOnce) return all;
  }
}
