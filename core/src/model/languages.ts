/** Languages that prompts are commonly in, by their code (BCP 47), as English names them. */
const names: Readonly<Record<string, string>> = {
  ...{ ar: 'Arabic', da: 'Danish', de: 'German', en: 'English', 'en-GB': 'British English', es: 'Spanish' },
  ...{ 'es-419': 'Spanish of the Americas', fi: 'Finnish', fr: 'French', 'fr-CA': 'Canadian French' },
  ...{ hi: 'Hindi', it: 'Italian', ja: 'Japanese', ko: 'Korean', nl: 'Dutch', no: 'Norwegian', pl: 'Polish' },
  ...{ pt: 'Portuguese', 'pt-BR': 'Brazilian Portuguese', pa: 'Punjabi', ru: 'Russian', sv: 'Swedish' },
  ...{ tl: 'Tagalog', tr: 'Turkish', uk: 'Ukrainian', vi: 'Vietnamese', zh: 'Chinese' },
};

/** Those to choose from, in the order of their names. */
export const commonLanguages: readonly { code: string; name: string }[] = Object.entries(names)
  .map(([code, name]) => ({ code, name }))
  .sort((a, b) => (a.name < b.name ? -1 : 1));

/** A language with or without a region: 'en', 'fr-CA', 'es-419'. */
export const isLanguage = (value: unknown): value is string =>
  typeof value === 'string' && /^[a-z]{2,3}(-([A-Z]{2}|\d{3}))?$/.test(value);

/** 'French'; of one without a name here, its code. */
export const languageName = (code: string): string => names[code] ?? code;

/** Without its region: 'fr' of 'fr-CA'. */
export const withoutRegion = (code: string): string => code.split('-')[0]!;

/**
 * Of these languages the one to be heard by somebody who chose `chosen`: that one, else one of the same language for
 * another region (the lookup of RFC 4647, 3.4, taken one step further to siblings). Undefined when there is none.
 */
export function heardIn(chosen: string, available: readonly string[]): string | undefined {
  const broad = withoutRegion(chosen);
  return (
    available.find((each) => each === chosen) ??
    available.find((each) => each === broad) ??
    available.find((each) => withoutRegion(each) === broad)
  );
}
