import type { Knex } from 'knex';
import type { AnsweringInput } from '@night-bell/core/readiness/answering';

/**
 * Prompts that are somebody's own and played by a plan that numbers lead to, though that plan neither rings this person
 * nor leads to a box of theirs: callers of the company would hear them as if they were.
 */
export async function promptsOfAnother(database: Knex): Promise<AnsweringInput['ofAnother']> {
  const { rows } = await database.raw<{ rows: AnsweringInput['ofAnother'] }>(
    `select distinct on (p.id) p.id, pi.name, li.name as plan
     from prompt p
     join item pi on pi.id = p.id and pi.retired_at is null
     join item_reference plays on plays.to_item = p.id
     join item li on li.id = plays.from_item and li.kind = 'plan' and li.retired_at is null
     where p.person_id is not null
       and exists (select 1 from item_reference n where n.to_item = li.id and n.how = 'leads to')
       and not exists (
         select 1 from item_reference also left join voicemail_box v on v.id = also.to_item
         where also.from_item = li.id and p.person_id in (also.to_item, v.owner_id))
     order by p.id, li.name`,
  );
  return rows;
}
