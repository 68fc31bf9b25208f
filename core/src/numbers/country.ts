import { parsePhoneNumberFromString } from 'libphonenumber-js/min';

/**
 * The country of a public number as its ISO 3166 code, by libphonenumber's metadata; `+1` where the North American plan
 * does not tell which; null when it is none.
 */
export function countryOf(e164: string): string | null {
  const parsed = parsePhoneNumberFromString(e164);
  if (parsed === undefined) return null;
  return parsed.country ?? `+${parsed.countryCallingCode}`;
}
