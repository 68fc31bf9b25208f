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

/** A decimal amount with groups of three: `1,250.00`. */
export function money(amount: string | null): string {
  if (amount === null) return '';
  const [whole = '', part = ''] = amount.split('.');
  return `${whole.replace(/\B(?=(\d{3})+$)/g, ',')}.${part}`;
}

export const sourceWords: Record<string, string> = {
  name: 'Name',
  kind: 'Kind',
  cost: 'Cost',
  costPer: 'Paid',
  fromDay: 'From',
};
