import type { Knex } from 'knex';
import type { SkillLevel } from '@night-bell/core/model/people.schema';
import type { Role } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import type { Author } from '../../spine/items.ts';
import { joinQueue, leaveQueue } from '../queues/membership.ts';
import { changePerson, getPerson, personSnapshot } from './store.ts';

/** What several people get alike; what is not named stays as it is. */
export interface BulkChange {
  teamId?: string | null;
  role?: Role;
  /** A level for a skill, or null to take it away. */
  skill?: { skillId: string; level: number | null };
  joinQueueId?: string;
  leaveQueueId?: string;
}

/** Changes all of them or, when one cannot be changed, nobody; the refusal says who. One batch of history. */
export async function changeMany(
  trx: Knex.Transaction,
  ids: string[],
  change: BulkChange,
  author: Author,
): Promise<void> {
  for (const id of ids) {
    const person = await getPerson(trx, id);
    if (person.retired) throw new Problem('notNow', `${person.name} is deactivated. Leave them out.`);
    const before = personSnapshot(person);
    const after = {
      ...before,
      ...(change.teamId === undefined ? {} : { teamId: change.teamId }),
      ...(change.role === undefined ? {} : { role: change.role }),
      skills: change.skill === undefined ? before.skills : withSkill(before.skills, change.skill),
    };
    if (JSON.stringify(before) === JSON.stringify(after)) continue;
    await changePerson(trx, id, person.version, after, author).catch((error: unknown) => {
      throw error instanceof Problem
        ? new Problem(error.code, `${person.name}: ${error.detail} Nobody was changed.`)
        : error;
    });
  }
  if (change.joinQueueId !== undefined) await joinQueue(trx, change.joinQueueId, ids, author);
  if (change.leaveQueueId !== undefined) await leaveQueue(trx, change.leaveQueueId, ids, author);
}

function withSkill(skills: SkillLevel[], { skillId, level }: NonNullable<BulkChange['skill']>): SkillLevel[] {
  const known = skills.some((skill) => skill.skillId === skillId);
  if (level === null) return skills.filter((skill) => skill.skillId !== skillId);
  if (!known) return [...skills, { skillId, level }];
  return skills.map((skill) => (skill.skillId === skillId ? { skillId, level } : skill));
}
