import type { SourceDraft, SourceView } from '@night-bell/core/contracts/sources';
import { sourcesApi } from '../../api/lists.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const kindWords: Record<SourceDraft['kind'], string> = {
  advert: 'Advert',
  poster: 'Poster',
  page: 'Page',
  leaflet: 'Leaflet',
  radio: 'Radio',
  partner: 'Partner',
  other: 'Other',
};

export const costWords: Record<SourceDraft['costPer'], string> = { month: 'a month', once: 'once' };

export const sourceWords: Record<keyof SourceDraft, string> = {
  name: 'Name',
  kind: 'Kind',
  cost: 'Cost',
  costPer: 'Paid',
  fromDay: 'From',
};

/** Call sources; a new one costs from today on. */
export const sourceArea = (today: () => string): ItemArea<SourceDraft, SourceView> => ({
  api: sourcesApi,
  page: '/sources',
  savedAs: 'sources',
  title: 'Sources',
  one: 'source',
  second: (source) => (source === null ? 'An advert, a poster, a page' : kindWords[source.kind]),
  fresh: () => ({ name: '', kind: 'advert', cost: '0', costPer: 'month', fromDay: today() }),
  draftOf: ({ name, kind, cost, costPer, fromDay }) => ({ name, kind, cost, costPer, fromDay }),
  words: sourceWords,
  show: (field, value) => {
    if (field === 'kind') return kindWords[value as SourceDraft['kind']];
    return field === 'costPer' ? costWords[value as SourceDraft['costPer']] : showPlain(value);
  },
  first: 'Source',
  tabs: [{ key: 'trend', title: 'Trend' }],
  made: ({ name }) => `${name} is made. Give it to a number, under Numbers.`,
});
