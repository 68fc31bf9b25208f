import { heardIn } from '../model/languages.ts';
import type { NoCallBack } from '../model/call-back.ts';

interface Words {
  offer(key: string): string;
  confirm(number: string, key: string): string;
  not: Record<NoCallBack, string>;
}

const english: Words = {
  offer: (key) => `You can be called back when it is your turn. Press ${key}, and you keep your place.`,
  confirm: (number, key) =>
    `We call you back on ${number} when it is your turn. Press ${key} to confirm, or stay on the line.`,
  not: {
    withheld: 'Your number is withheld, so we cannot call you back. You keep your place here.',
    optedOut: 'You asked us not to call you, so we do not call you back. You keep your place here.',
    already: 'We have promised to call you back already. You keep your place here.',
    none: 'Nobody is called back here. You keep your place.',
  },
};

const written: Readonly<Record<string, Words>> = {
  en: english,
  fr: {
    offer: (key) =>
      `Nous pouvons vous rappeler quand viendra votre tour. Appuyez sur ${key}, et vous gardez votre place.`,
    confirm: (number, key) =>
      `Nous vous rappelons au ${number} quand viendra votre tour. Appuyez sur ${key} pour confirmer, ou restez en ligne.`,
    not: {
      withheld: 'Votre numéro est masqué, nous ne pouvons pas vous rappeler. Vous gardez votre place.',
      optedOut:
        'Vous avez demandé à ne pas être appelé, nous ne vous rappelons pas. Vous gardez votre place.',
      already: 'Nous avons déjà promis de vous rappeler. Vous gardez votre place.',
      none: "Personne n'est rappelé ici. Vous gardez votre place.",
    },
  },
};

const wordsIn = (language: string | null): Words =>
  written[(language === null ? undefined : heardIn(language, Object.keys(written))) ?? 'en']!;

/** What a caller is told of being called back, in their language where it is written, else in English. */
export const callBackOffered = (key: string, language: string | null): string => wordsIn(language).offer(key);

/** The number is said digit by digit. */
export const callBackAsked = (e164: string, key: string, language: string | null): string =>
  wordsIn(language).confirm([...e164.replace('+', '')].join(' '), key);

export const noCallBack = (why: NoCallBack, language: string | null): string => wordsIn(language).not[why];
