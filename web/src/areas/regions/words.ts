import type { RegionDraft, RegionsContract, RegionView } from '@night-bell/core/contracts/regions';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';
import { locale } from '../../kit/locale.ts';

export const regionApi = itemApi<RegionsContract>('region', '/api/region-tables');

export const regionArea: ItemArea<RegionDraft, RegionView> = {
  api: regionApi,
  page: '/regions',
  savedAs: 'regions',
  title: 'Region tables',
  one: 'table',
  second: 'Where callers go by their number',
  fresh: () => ({ name: '' }),
  draftOf: ({ name }) => ({ name }),
  words: { name: 'Name' },
  show: (_field, value) => showPlain(value),
  unused: 'No plan asks this table yet.',
};

export const figure = (value: number) => value.toLocaleString(locale.value);
export const rowCount = (rows: number) => (rows === 1 ? '1 row' : `${figure(rows)} rows`);
/** '12 of 4,120 callers in the last 30 days'. */
export const callerWords = (some: number, all: number, days: number) =>
  `${figure(some)} of ${figure(all)} callers in the last ${days} days`;
