import { heardIn } from '../model/languages.ts';

/** What a voice says to callers who wait, in the languages it is written in. */
interface WaitingWords {
  next: string;
  place(place: number): string;
  underAMinute: string;
  minutes(minutes: number): string;
}

const english: WaitingWords = {
  next: 'You are next in line.',
  place: (place) => `You are number ${place} in line.`,
  underAMinute: 'It will take less than a minute.',
  minutes: (minutes) => `It may take about ${minutes === 1 ? 'a minute' : `${minutes} minutes`}.`,
};

const written: Readonly<Record<string, WaitingWords>> = {
  en: english,
  fr: {
    next: 'Vous êtes le prochain appel.',
    place: (place) => `Vous êtes au rang ${place}.`,
    underAMinute: "L'attente sera de moins d'une minute.",
    minutes: (minutes) => `L'attente est d'environ ${minutes === 1 ? 'une minute' : `${minutes} minutes`}.`,
  },
  es: {
    next: 'La suya es la próxima llamada.',
    place: (place) => `Usted ocupa el puesto ${place}.`,
    underAMinute: 'La espera será de menos de un minuto.',
    minutes: (minutes) => `La espera es de ${minutes === 1 ? 'un minuto' : `unos ${minutes} minutos`}.`,
  },
  de: {
    next: 'Sie sind als Nächstes an der Reihe.',
    place: (place) => `Sie sind an Stelle ${place}.`,
    underAMinute: 'Es dauert weniger als eine Minute.',
    minutes: (minutes) => `Es dauert etwa ${minutes === 1 ? 'eine Minute' : `${minutes} Minuten`}.`,
  },
};

/**
 * The caller's place in line and how long it may take, in their language where it is written, else in English. Waits are
 * rounded up to whole minutes: nobody minds being answered sooner.
 *
 * @param place from 1; null when it is not said
 * @param waitMs null when it is not said, or cannot be known
 * @param language BCP 47, as the caller chose it
 * @returns empty when there is nothing to say
 */
export function placeAndWait(place: number | null, waitMs: number | null, language: string | null): string {
  const known = language === null ? undefined : heardIn(language, Object.keys(written));
  const words = known === undefined ? english : written[known]!;
  const said: string[] = [];
  if (place !== null) said.push(place === 1 ? words.next : words.place(place));
  if (waitMs !== null)
    said.push(waitMs < 60_000 ? words.underAMinute : words.minutes(Math.ceil(waitMs / 60_000)));
  return said.join(' ');
}
