import type { Knex } from 'knex';
import type { SkillDraft } from '@night-bell/core/model/skills.schema';
import { itemStore } from '../../spine/item-store.ts';

export interface SkillView extends SkillDraft {
  id: string;
  version: number;
  retired: boolean;
  /** People who have it, at any level. */
  people: number;
}

export function listSkills(database: Knex, id?: string): Promise<SkillView[]> {
  return database('item as i')
    .where('i.kind', 'skill')
    .modify((query) => {
      if (id !== undefined) void query.where('i.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 'i.id' }])
    .select<SkillView[]>(
      'i.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      database.raw(
        `(select count(*)::int from person_skill k join item p on p.id = k.person_id
          where k.skill_id = i.id and p.retired_at is null) as people`,
      ),
    );
}

export const skillStore = itemStore<SkillDraft, SkillView>({
  kind: 'skill',
  word: 'skill',
  list: listSkills,
  snapshot: ({ name }) => ({ name }),
  references: () => [],
  insert: async (trx, id) => void (await trx('skill').insert({ id })),
  update: () => Promise.resolve(),
});
