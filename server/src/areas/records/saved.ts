import Joi from 'joi';
import { formatNumber } from '@night-bell/core/numbers/format';
import { everyPage, savedList } from '../../lists/saved-list.ts';
import { recordFields } from '../desk/script.ts';
import { pageOfRecords, type RecordRow, recordsNarrowing, type RecordsQuery } from './records.queries.ts';

export const savedRecords = savedList<RecordsQuery, RecordRow>({
  area: 'Records',
  name: 'records',
  query: Joi.object<RecordsQuery>(recordsNarrowing),
  columns: async (database) => [
    { title: 'Name', of: ({ name }) => name },
    { title: 'Numbers', of: ({ numbers }) => numbers.map(formatNumber).join(', ') },
    { title: 'Owner', of: ({ owner }) => owner },
    ...(await recordFields(database)).map((field) => ({
      title: field,
      of: ({ fields }: RecordRow) => fields[field] ?? null,
    })),
  ],
  rows: (database, query) => everyPage((page) => pageOfRecords(database, { ...query, ...page })),
  count: async (database, query) =>
    (await pageOfRecords(database, { ...query, limit: 1, total: true })).total,
});
