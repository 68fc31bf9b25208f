import type { Knex } from 'knex';
import type { QueueFit, QueueSkill } from '@night-bell/core/contracts/queues';
import { beginOf, fitsFrom, stagesOf } from '@night-bell/core/distribute/stages';
import type { Live } from '../../live/live.ts';

interface Asked {
  members: string[];
  joins: { memberId: string; afterSeconds: number }[];
  skills: QueueSkill[];
}

interface PersonRow {
  id: string;
  teamId: string | null;
  skills: Record<string, number>;
}

/** Of the members of a queue as it would be, how many may be rung at each stage of a caller's wait. */
export async function whoFits(database: Knex, live: Live, asked: Asked): Promise<QueueFit> {
  const { rows } = await database.raw<{ rows: PersonRow[] }>(
    `select p.id, p.team_id as "teamId", coalesce((select json_object_agg(s.skill_id, s.level)
         from person_skill s where s.person_id = p.id), '{}') as skills
       from person p join item i on i.id = p.id and i.retired_at is null
       where p.id = any(?::uuid[]) or p.team_id = any(?::uuid[])`,
    [asked.members, asked.members],
  );
  const joinsAfter = new Map(asked.joins.map(({ memberId, afterSeconds }) => [memberId, afterSeconds]));
  const joinOf = ({ id, teamId }: PersonRow) => {
    // As for calls: who is in it by their team too stands where they stand first.
    const first = asked.members.find((member) => member === id || member === teamId)!;
    return joinsAfter.get(first) ?? 0;
  };
  const people = rows.map((row) => ({ ...row, joins: joinOf(row) }));
  const item = {
    skills: asked.skills.map((skill) => ({ ...skill, name: '' })),
    joinsAfter: people.map(({ joins }) => joins),
  };
  const stages = stagesOf(item);
  const from = people.map(({ skills, joins }) => fitsFrom(item, stages, skills, joins));
  const agents = live.ready ? live.exchange.view().agents : null;
  const isHere = ({ id }: PersonRow) => {
    const presence = agents?.get(id)?.presence;
    return presence !== undefined && presence !== 'signedOut';
  };
  return {
    stages: Array.from({ length: stages.length + 1 }, (_, stage) => {
      const fit = people.filter((_person, index) => from[index]! <= stage);
      return { afterSeconds: beginOf(stages, stage), fits: fit.length, here: fit.filter(isHere).length };
    }),
  };
}
