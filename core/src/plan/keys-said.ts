import { withoutRegion } from '../model/languages.ts';

/** How a language tells callers to press a key, and how it calls the keys. */
interface Telling {
  /** Up to and without the key itself, which follows as a digit, a sign or a word. */
  press: RegExp;
  keys: Readonly<Record<string, string>>;
}

const word = String.raw`\s+(\d\b|[*#]|[\p{L}]+)`;

const tellings: Readonly<Record<string, Telling>> = {
  en: {
    press: new RegExp(String.raw`\b(?:press|push|dial|tap)(?:\s+the|\s+key|\s+number)*${word}`, 'giu'),
    keys: {
      ...{
        one: '1',
        two: '2',
        three: '3',
        four: '4',
        five: '5',
        six: '6',
        seven: '7',
        eight: '8',
        nine: '9',
      },
      ...{ zero: '0', star: '*', pound: '#', hash: '#' },
    },
  },
  fr: {
    press: new RegExp(
      String.raw`(?:appuyez\s+sur|composez|faites|pesez\s+sur)(?:\s+le|\s+la|\s+touche)*${word}`,
      'giu',
    ),
    keys: {
      ...{ un: '1', deux: '2', trois: '3', quatre: '4', cinq: '5', six: '6', sept: '7', huit: '8' },
      ...{ neuf: '9', zéro: '0', étoile: '*', carré: '#', dièse: '#' },
    },
  },
  es: {
    press: new RegExp(
      String.raw`(?:oprima|presione|pulse|marque)(?:\s+el|\s+la|\s+tecla|\s+número)*${word}`,
      'giu',
    ),
    keys: {
      ...{ uno: '1', dos: '2', tres: '3', cuatro: '4', cinco: '5', seis: '6', siete: '7', ocho: '8' },
      ...{ nueve: '9', cero: '0', asterisco: '*', estrella: '*', numeral: '#', almohadilla: '#' },
    },
  },
};

/**
 * The keys that words speak of: 'press 2', 'press the star key', 'appuyez sur le 2'. Null where the way to say it is not
 * known here in one of the languages.
 *
 * @param languages those the words are in (BCP 47): more than one where they offer a choice of them
 */
export function keysSaid(words: string, languages: readonly string[]): string[] | null {
  const said = new Set<string>();
  for (const language of languages) {
    const telling = tellings[withoutRegion(language)];
    if (telling === undefined) return null;
    for (const [, key] of words.matchAll(telling.press)) {
      const known = /^[\d*#]$/.test(key!) ? key : telling.keys[key!.toLowerCase()];
      if (known !== undefined) said.add(known);
    }
  }
  return [...said];
}
