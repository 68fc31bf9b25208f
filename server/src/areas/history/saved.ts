import Joi from 'joi';
import { everyPage, savedList } from '../../lists/saved-list.ts';
import { companyClock } from '../../spine/company-clock.ts';
import { type ChangesQuery, changesNarrowing, type ChangeView, pageOfChanges } from './changes.queries.ts';

const told = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value));

export const savedChanges = savedList<ChangesQuery, ChangeView>({
  area: 'History',
  name: 'changes',
  query: Joi.object<ChangesQuery>(changesNarrowing),
  columns: async (database) => {
    const { zone, at } = await companyClock(database);
    return [
      { title: `When (${zone})`, of: (row) => at(row.at) },
      { title: 'Who', of: ({ by }) => by },
      { title: 'What', of: ({ what }) => what },
      { title: 'Kind', of: ({ itemKind }) => itemKind },
      { title: 'Name', of: ({ itemName }) => itemName },
      {
        title: 'Fields',
        of: ({ fields, about }) =>
          about ??
          fields.map(({ field, before, after }) => `${field}: ${told(before)} -> ${told(after)}`).join('; '),
      },
    ];
  },
  rows: (database, query) => everyPage((page) => pageOfChanges(database, { ...query, ...page })),
  count: async (database, query) =>
    (await pageOfChanges(database, { ...query, limit: 1, total: true })).total,
});
