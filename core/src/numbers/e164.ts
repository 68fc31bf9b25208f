import { isValidPhoneNumber, parsePhoneNumberFromString } from 'libphonenumber-js/min';

export type NumberReading = { ok: true; e164: string } | { ok: false; reason: string };

/** Area code and exchange begin with 2 to 9 (North American Numbering Plan, ATIS-0300055). */
const northAmerican = /^\+1[2-9]\d{2}[2-9]\d{6}$/;

/**
 * The number of a `tel:` URI (RFC 3966): without its parameters, and with its context where that is the beginning of a
 * number. What is no such URI is given back as it is.
 */
function ofTelUri(text: string): string {
  const found = /^tel:([^;]*)((?:;[^;]*)*)$/i.exec(text);
  if (found === null) return text;
  const number = found[1]!;
  const context = /;phone-context=(\+[\d().\-]+)/i.exec(found[2]!)?.[1] ?? '';
  return number.startsWith('+') ? number : context + number;
}

/**
 * Reads a public number as people type it, or as a link has it (`tel:+1-360-555-0117`), and gives it in E.164 (ITU-T
 * Recommendation E.164: `+`, country code, at most 15 digits). Without a country code the North American plan is assumed.
 *
 * @example readNumber('(360) 555-0117') // { ok: true, e164: '+13605550117' }
 */
export function readNumber(typed: string): NumberReading {
  const text = ofTelUri(typed.trim()).trim();
  if (northAmerican.test(text)) return { ok: true, e164: text };
  if (text === '') return { ok: false, reason: 'Type a number, for example +1 360 555 0117.' };
  if (/[^\d\s()+.\-/]/.test(text)) {
    return { ok: false, reason: `"${text}" holds characters that are not part of a phone number.` };
  }
  const parsed = parsePhoneNumberFromString(text, 'US');
  if (parsed === undefined || !parsed.isPossible()) {
    return { ok: false, reason: `"${text}" is not a complete phone number. Write it like +1 360 555 0117.` };
  }
  const e164 = parsed.number as string;
  if (parsed.countryCallingCode === '1' && !northAmerican.test(e164)) {
    return { ok: false, reason: `"${text}" is no number: area code and exchange begin with 2 to 9.` };
  }
  return { ok: true, e164 };
}

/** What is odd about a number that can be dialled: nobody is known to have it. Null when nothing is. */
export function doubtOf(e164: string): string | null {
  return isValidPhoneNumber(e164)
    ? null
    : 'No numbering plan knows such a number. It is taken as it is; look at it once more.';
}
