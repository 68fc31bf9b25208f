import { utf8ToBytes } from '@noble/hashes/utils.js';

/** Somebody of ours as an address book wants them. */
export interface CardPerson {
  id: string;
  name: string;
  company: string;
  team: string | null;
  mail: string | null;
  /** Public numbers that lead straight to them, E.164. */
  numbers: readonly string[];
  extension: string;
}

/**
 * vCards 4.0 (RFC 6350), one after the other. The extension is a local number (RFC 3966, 5.1.5) and needs a context:
 * the company's first number where there is one, else it is left out.
 */
export function writeCards(people: readonly CardPerson[], mainNumber: string | null): string {
  return people.map((person) => writeCard(person, mainNumber)).join('');
}

function writeCard(person: CardPerson, mainNumber: string | null): string {
  const words = person.name.split(' ');
  const last = words.length > 1 ? words.pop()! : '';
  const lines = [
    'BEGIN:VCARD',
    'VERSION:4.0',
    `UID:urn:uuid:${person.id}`,
    `FN:${escaped(person.name)}`,
    `N:${escaped(last)};${escaped(words.join(' '))};;;`,
    `ORG:${[person.company, ...(person.team === null ? [] : [person.team])].map(escaped).join(';')}`,
    ...person.numbers.map((number) => `TEL;VALUE=uri;TYPE="work,voice":tel:${number}`),
    ...(mainNumber === null || person.extension === ''
      ? []
      : [`TEL;VALUE=uri;TYPE=work:tel:${person.extension};phone-context=${mainNumber}`]),
    ...(person.mail === null ? [] : [`EMAIL;TYPE=work:${escaped(person.mail)}`]),
    'END:VCARD',
  ];
  return lines.map((line) => `${folded(line)}\r\n`).join('');
}

/** Section 3.4: backslash, comma, semicolon and line breaks within a text. */
function escaped(text: string): string {
  return text.replace(/[\\,;]/g, '\\$&').replace(/\r?\n/g, '\\n');
}

const longestLine = 75;

/** Section 3.2: a line longer than 75 octets goes on behind a space; no character is cut. */
function folded(line: string): string {
  let out = '';
  let octets = 0;
  for (const character of line) {
    const size = utf8ToBytes(character).length;
    if (octets + size > longestLine) {
      out += '\r\n ';
      octets = 1;
    }
    out += character;
    octets += size;
  }
  return out;
}
