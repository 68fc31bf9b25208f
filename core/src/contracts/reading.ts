import Joi from 'joi';
import { isZone } from '../hours/zone.ts';
import { nullable, object, type Out, part } from './parts.ts';

/** How dates, times and numbers may be written, as BCP 47 tags. Words stay English. */
export const locales = [
  'en-US',
  'en-CA',
  'en-GB',
  'fr-CA',
  'fr-FR',
  'es-MX',
  'es-ES',
  'de-DE',
  'nl-NL',
  'sv-SE',
] as const;
export type Locale = (typeof locales)[number];

const locale = part<Locale>(
  Joi.string()
    .valid(...locales)
    .required()
    .messages({ 'any.only': 'Choose one of the ways of writing that are offered.' }),
);
const zone = part<string>(
  Joi.string()
    .max(60)
    .required()
    .custom((value: string, helpers) =>
      isZone(value) ? value : helpers.message({ custom: 'There is no time zone of this name.' }),
    ),
);

/** How somebody reads dates, times and numbers; null for as the company does. */
export const ownReading = object({ locale: nullable(locale), timeZone: nullable(zone) });
export type OwnReading = Out<typeof ownReading>;

/** How the company writes them; null for the house's own forms (`Tue 24 Nov`, `14:20`). */
export const companyReading = object({ locale: nullable(locale) });
