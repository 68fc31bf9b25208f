import Joi from 'joi';

/**
 * Where help is sent: a dispatchable location as 47 CFR 9.3 asks, a street address with what it takes to find the
 * caller within the building.
 */
export interface EmergencyAddress {
  street: string;
  /** Floor, suite, room; empty for a house of its own. */
  unit: string;
  city: string;
  region: string;
  postalCode: string;
  /** ISO 3166 code of two letters. */
  country: string;
}

const line = (most: number, sentence: string) =>
  Joi.string()
    .trim()
    .max(most)
    .pattern(/^[^\p{Cc}]+$/u)
    .required()
    .messages({
      'string.empty': sentence,
      'any.required': sentence,
      'string.max': `At most ${most} characters.`,
    });

export const emergencyAddress = Joi.object<EmergencyAddress, true>({
  street: line(120, 'Help needs a street and a house number.'),
  unit: Joi.string().trim().allow('').max(60).default(''),
  city: line(80, 'Name the city.'),
  region: line(40, 'Name the state or province.'),
  postalCode: line(16, 'Name the postal code.'),
  country: Joi.string()
    .trim()
    .uppercase()
    .pattern(/^[A-Z]{2}$/)
    .required()
    .messages({
      'string.empty': 'Name the country by its two letters, for example US.',
      'any.required': 'Name the country by its two letters, for example US.',
      'string.pattern.base': 'Name the country by its two letters, for example US.',
    }),
}).allow(null);

/** The address as it is read out. */
export function addressWords({ street, unit, city, region, postalCode, country }: EmergencyAddress): string {
  return [`${street}${unit === '' ? '' : `, ${unit}`}`, city, `${region} ${postalCode}`, country].join(', ');
}
