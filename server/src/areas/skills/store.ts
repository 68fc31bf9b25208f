import { type SkillDraft, skills, type SkillView } from '@night-bell/core/contracts/skills';
import { defineItem } from '../../spine/define-item.ts';

export const skillItem = defineItem<typeof skills.path, SkillDraft, SkillView>({
  kind: 'skill',
  contract: skills,
  word: 'skill',
  table: 'skill',
  columns: {},
  more: {
    people: `(select count(*)::int from person_skill k join item p on p.id = k.person_id
      where k.skill_id = t.id and p.retired_at is null)`,
  },
  references: () => [],
});
