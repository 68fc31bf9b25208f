import Joi from 'joi';
import { everyPage, inParts, savedList } from '../../lists/saved-list.ts';
import { countListed, inOrderOf } from '../../spine/listing.ts';
import { narrowingOf, type NumbersQuery, numbersNarrowing, pageOfNumbers } from './numbers.queries.ts';
import { listNumbers, type NumberView } from './store.ts';

export const savedNumbers = savedList<NumbersQuery, NumberView>({
  area: 'Numbers',
  name: 'numbers',
  query: Joi.object<NumbersQuery>(numbersNarrowing),
  columns: () =>
    Promise.resolve([
      { title: 'Number', of: ({ e164 }) => e164 },
      { title: 'Label', of: ({ label }) => label },
      { title: 'Leads to', of: ({ destinationName }) => destinationName },
      { title: 'Source', of: ({ sourceName }) => sourceName },
      { title: 'Texts', of: ({ textsName }) => textsName },
      { title: 'Calls at once', of: ({ mostCalls }) => mostCalls },
      {
        title: 'Rent a month (US dollars)',
        of: ({ monthly }) => (monthly === null ? null : Number(monthly)),
      },
      { title: 'Calls today', of: ({ callsToday }) => callsToday },
    ]),
  rows: async function* (database, query, ids) {
    if (ids === null) yield* everyPage((page) => pageOfNumbers(database, { ...query, ...page }));
    else for (const some of inParts(ids)) yield inOrderOf(some, await listNumbers(database, some));
  },
  count: (database, query) => countListed(database, narrowingOf(query)),
});
