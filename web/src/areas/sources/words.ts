import type { Source } from '../../api/client.ts';

export const kindWords: Record<Source['kind'], string> = {
  advert: 'Advert',
  poster: 'Poster',
  page: 'Page',
  leaflet: 'Leaflet',
  radio: 'Radio',
  partner: 'Partner',
  other: 'Other',
};

export const sourceWords: Record<string, string> = {
  name: 'Name',
  kind: 'Kind',
  cost: 'Cost',
  costPer: 'Paid',
  fromDay: 'From',
};
