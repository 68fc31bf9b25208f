import type { Knex } from 'knex';
import type { AnsweringInput } from '@night-bell/core/readiness/answering';
import { meantBy } from './hearing.ts';

/** Boxes of which readiness may have something to say: with messages nobody heard, full, or with somebody's own greeting. */
export async function boxesForReadiness(database: Knex): Promise<AnsweringInput['boxes']> {
  const { rows } = await database.raw<{ rows: AnsweringInput['boxes'] }>(
    `with held as (
       select box_id, count(*)::int as held, count(*) filter (where state = 'new')::int as fresh
       from message where deleted_at is null group by box_id),
     greets as (
       select v.id as box_id, min(pi.name) as name
       from voicemail_box v
       cross join lateral jsonb_each(v.greetings) as w (at, pair)
       cross join lateral jsonb_each_text(w.pair) as g (who, prompt_id)
       join prompt p on p.id = g.prompt_id::uuid
       join item pi on pi.id = p.id
       -- Most boxes have no greeting of their own: they are passed over before they are taken apart.
       where v.greetings::text like '%-%' and p.person_id is not null and p.person_id is distinct from v.owner_id
       group by v.id)
     select v.id, i.name, coalesce(h.fresh, 0) as fresh,
       coalesce(h.held, 0) >= v.most_messages as full,
       g.name as "greetingOfAnother",
       (select count(*)::int from (
          select p.id from ${meantBy} meant join person p on p.id = meant.id
          union select p.id from ${meantBy} meant join person p on p.team_id = meant.id) who
        join item pi on pi.id = who.id and pi.retired_at is null) as listeners
     from voicemail_box v join item i on i.id = v.id
     left join held h on h.box_id = v.id left join greets g on g.box_id = v.id
     where i.retired_at is null and (h.fresh > 0 or h.held >= v.most_messages or g.name is not null)
     order by i.name`,
  );
  return rows;
}
