import Joi from 'joi';
import { formatNumber } from '@night-bell/core/numbers/format';
import { savedAtOnce, savedList } from '../../lists/saved-list.ts';
import { companyClock } from '../../spine/company-clock.ts';
import { type ContactRow, contactsNarrowing, findContacts } from './contacts.queries.ts';
import { campaignItem } from './store.ts';

interface ContactsQuery {
  campaignId: string;
  state?: string;
  text?: string;
}

export const savedContacts = savedList<ContactsQuery, ContactRow>({
  area: 'Campaigns',
  name: 'contacts',
  query: Joi.object<ContactsQuery>({ ...contactsNarrowing, campaignId: Joi.string().guid().required() }),
  columns: async (database, { campaignId }) => {
    const { zone, at } = await companyClock(database);
    const { fields } = await campaignItem.get(database, campaignId);
    return [
      { title: 'Name', of: ({ name }) => name },
      { title: 'Number', of: ({ e164 }) => formatNumber(e164) },
      { title: 'State', of: ({ state }) => state },
      { title: 'Tries', of: ({ attempts }) => attempts },
      { title: 'Outcome', of: ({ outcome, lastResult }) => outcome ?? lastResult },
      { title: `Last called (${zone})`, of: ({ lastAt }) => (lastAt === null ? null : at(lastAt)) },
      { title: `Due (${zone})`, of: ({ dueAt }) => (dueAt === null ? null : at(dueAt)) },
      ...fields.map((field) => ({ title: field, of: (row: ContactRow) => row.fields[field] ?? null })),
    ];
  },
  rows: async function* (database, { campaignId, ...filter }) {
    for (let behind = -1; ;) {
      const some = await findContacts(database, campaignId, { ...filter, behind, limit: savedAtOnce });
      yield some;
      behind = some.at(-1)?.position ?? 0;
      if (some.length < savedAtOnce) return;
    }
  },
  count: async (database, { campaignId }) => {
    const [row] = await database('contact')
      .where({ campaign_id: campaignId })
      .count<{ count: number }[]>('* as count');
    return Number(row!.count);
  },
});
