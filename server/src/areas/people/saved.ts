import Joi from 'joi';
import { inParts, everyPage, savedList } from '../../lists/saved-list.ts';
import { countListed } from '../../spine/listing.ts';
import { narrowingOf, pageOfPeople, type PeopleQuery, personRows, type PersonRow } from './people.queries.ts';
import { peopleNarrowing } from './schemas.ts';

/** What only the exchange knows is resolved to ids before a list is saved. */
const noState = (): never => {
  throw new Error('what changes from moment to moment is resolved before');
};

export const savedPeople = savedList<PeopleQuery, PersonRow>({
  area: 'People',
  name: 'people',
  query: Joi.object<PeopleQuery>(peopleNarrowing),
  columns: async (database) => {
    const skills = new Map(
      (
        await database('item').where({ kind: 'skill' }).select<{ id: string; name: string }[]>('id', 'name')
      ).map(({ id, name }) => [id, name]),
    );
    return [
      { title: 'Name', of: ({ name }) => name },
      { title: 'Team', of: ({ teamName }) => teamName },
      { title: 'Extension', of: ({ extension }) => extension },
      { title: 'Login', of: ({ login }) => login },
      { title: 'Role', of: ({ role }) => role },
      { title: 'Mail', of: ({ mail }) => mail },
      {
        title: 'Skills',
        of: (row) =>
          row.skills.map(({ skillId, level }) => `${skills.get(skillId) ?? ''} ${level}`).join(', '),
      },
      { title: 'Rings for', of: ({ queues }) => queues.map(({ name }) => name).join(', ') },
    ];
  },
  rows: async function* (database, query, ids) {
    if (ids === null) yield* everyPage((page) => pageOfPeople(database, { ...query, ...page }, noState));
    else for (const some of inParts(ids)) yield await personRows(database, some);
  },
  count: (database, query) => countListed(database, narrowingOf(query, noState)),
});
