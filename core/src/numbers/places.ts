import { areaPlaces } from './table.ts';

/** States, provinces and territories of the North American plan by their postal codes (ISO 3166-2:US, ISO 3166-2:CA). */
const states = new Map(
  (
    'AL:Alabama|AK:Alaska|AZ:Arizona|AR:Arkansas|CA:California|CO:Colorado|CT:Connecticut|DE:Delaware|' +
    'DC:Washington D.C.|FL:Florida|GA:Georgia|HI:Hawaii|ID:Idaho|IL:Illinois|IN:Indiana|IA:Iowa|KS:Kansas|' +
    'KY:Kentucky|LA:Louisiana|ME:Maine|MD:Maryland|MA:Massachusetts|MI:Michigan|MN:Minnesota|MS:Mississippi|' +
    'MO:Missouri|MT:Montana|NE:Nebraska|NV:Nevada|NH:New Hampshire|NJ:New Jersey|NM:New Mexico|NY:New York|' +
    'NC:North Carolina|ND:North Dakota|OH:Ohio|OK:Oklahoma|OR:Oregon|PA:Pennsylvania|RI:Rhode Island|' +
    'SC:South Carolina|SD:South Dakota|TN:Tennessee|TX:Texas|UT:Utah|VT:Vermont|VA:Virginia|WA:Washington|' +
    'WV:West Virginia|WI:Wisconsin|WY:Wyoming|AB:Alberta|BC:British Columbia|MB:Manitoba|NB:New Brunswick|' +
    'NL:Newfoundland and Labrador|NT:Northwest Territories|NU:Nunavut|NS:Nova Scotia|ON:Ontario|PE:Prince Edward Island|QC:Quebec|SK:Saskatchewan|YT:Yukon'
  )
    .split('|')
    .map((entry) => entry.split(':') as [string, string]),
);

/** As the source of the table has it. */
const misspelt = new Map([['British Colombia', 'British Columbia']]);

const plain = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/ (state|province)$/, '')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/** 'San Antonio, TX' is a place in a state, 'Texas' a state. */
const byPlace = new Map<string, { name: string; codes: Set<string> }>();
function note(name: string, code: string): void {
  const known = byPlace.get(plain(name));
  if (known === undefined) byPlace.set(plain(name), { name, codes: new Set([code]) });
  else known.codes.add(code);
}
for (const entry of areaPlaces.split('|')) {
  const [code = '', place = ''] = entry.split(':');
  const [town = '', postal] = place.split(', ');
  if (postal === undefined)
    for (const name of place.split('/')) note(misspelt.get(name) ?? name.replace(/ State$/, ''), code);
  else {
    note(town, code);
    note(states.get(postal) ?? postal, code);
  }
}

/** Area codes of a state, province or town of the North American plan, by its name or postal code; empty when not known. */
export function areaCodesOf(place: string): string[] {
  const named = states.get(place.trim().toUpperCase()) ?? place;
  return [...(byPlace.get(plain(named))?.codes ?? [])].sort();
}

/** Every place one can choose, by name, with its area codes. */
export function allPlaces(): { name: string; codes: string[] }[] {
  return [...byPlace.values()]
    .map(({ name, codes }) => ({ name, codes: [...codes].sort() }))
    .sort((one, other) => (one.name < other.name ? -1 : 1));
}
