import fc from 'fast-check';
import { expect, test } from 'vitest';
import { writeCards } from './vcard.ts';

const person = {
  id: '018f0000-0000-7000-8000-000000000001',
  name: 'Inès Calloway',
  company: 'Merrow Sound Ferries',
  team: 'Bookings',
  mail: 'ines@ferries.example',
  numbers: ['+12065550141'],
  extension: '2001',
};

test('a card has name, company, numbers as RFC 3966 writes them, and the extension in its context', () => {
  expect(writeCards([person], '+12065550140').split('\r\n')).toEqual([
    'BEGIN:VCARD',
    'VERSION:4.0',
    'UID:urn:uuid:018f0000-0000-7000-8000-000000000001',
    'FN:Inès Calloway',
    'N:Calloway;Inès;;;',
    'ORG:Merrow Sound Ferries;Bookings',
    'TEL;VALUE=uri;TYPE="work,voice":tel:+12065550141',
    'TEL;VALUE=uri;TYPE=work:tel:2001;phone-context=+12065550140',
    'EMAIL;TYPE=work:ines@ferries.example',
    'END:VCARD',
    '',
  ]);
});

test('what a text may not carry bare is escaped (RFC 6350, 3.4)', () => {
  const card = writeCards([{ ...person, name: 'A; B, C\\D\nE' }], null);
  expect(card).toContain('FN:A\\; B\\, C\\\\D\\nE\r\n');
});

test('no line has more than 75 octets, and unfolded it is what it was (3.2)', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 200 }), (company) => {
      const text = writeCards([{ ...person, company: company.replace(/[\r\n]/g, '') }], null);
      const bytes = new TextEncoder();
      for (const line of text.split('\r\n')) expect(bytes.encode(line).length).toBeLessThanOrEqual(75);
      const organisation = text
        .replace(/\r\n /g, '')
        .split('\r\n')
        .find((line) => line.startsWith('ORG:'))!;
      expect(organisation.replace(/\\([\\,;])/g, '$1')).toBe(
        `ORG:${company.replace(/[\r\n]/g, '')};Bookings`,
      );
    }),
  );
});
