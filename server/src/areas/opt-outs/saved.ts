import Joi from 'joi';
import { formatNumber } from '@night-bell/core/numbers/format';
import { everyPage, savedList } from '../../lists/saved-list.ts';
import { companyClock } from '../../spine/company-clock.ts';
import { type OptOutRow, optOutsNarrowing, type OptOutsQuery, pageOfOptOuts } from './store.ts';

export const savedOptOuts = savedList<OptOutsQuery, OptOutRow>({
  area: 'Opt-outs',
  name: 'opt-outs',
  query: Joi.object<OptOutsQuery>(optOutsNarrowing),
  columns: async (database) => {
    const { zone, at } = await companyClock(database);
    return [
      { title: 'Number', of: ({ e164 }) => formatNumber(e164) },
      { title: 'How', of: ({ how }) => how },
      { title: 'By', of: ({ by }) => by },
      { title: 'Campaign', of: ({ campaignName }) => campaignName },
      { title: `Since (${zone})`, of: (row) => at(row.at) },
    ];
  },
  rows: (database, query) => everyPage((page) => pageOfOptOuts(database, { ...query, ...page })),
  count: async (database, query) =>
    (await pageOfOptOuts(database, { ...query, limit: 1, total: true })).total,
});
