import { parsePhoneNumberFromString } from 'libphonenumber-js/min';

export type NumberReading = { ok: true; e164: string } | { ok: false; reason: string };

const northAmerican = /^\+1[2-9]\d{2}[2-9]\d{6}$/;

/**
 * Reads a public number as people type it, and gives it in E.164 (ITU-T Recommendation E.164: `+`, country
 * code, at most 15 digits). Without a country code the North American plan is assumed.
 *
 * @example readNumber('(360) 555-0117') // { ok: true, e164: '+13605550117' }
 */
export function readNumber(typed: string): NumberReading {
  const text = typed.trim();
  if (northAmerican.test(text)) return { ok: true, e164: text };
  if (text === '') return { ok: false, reason: 'Type a number, for example +1 360 555 0117.' };
  if (/[^\d\s()+.\-/]/.test(text)) {
    return { ok: false, reason: `"${text}" holds characters that are not part of a phone number.` };
  }
  const parsed = parsePhoneNumberFromString(text, 'US');
  if (parsed === undefined || !parsed.isPossible()) {
    return { ok: false, reason: `"${text}" is not a complete phone number. Write it like +1 360 555 0117.` };
  }
  return { ok: true, e164: parsed.number };
}
