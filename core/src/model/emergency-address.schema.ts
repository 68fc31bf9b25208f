import Joi from 'joi';
import type { EmergencyAddress } from './emergency-address.ts';

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
