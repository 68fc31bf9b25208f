import Joi from 'joi';
import { publicNumber } from '@night-bell/core/model/fields.schema';
import { editors, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import type { Shop } from './shop.ts';
import { holdNumbers, holds, releaseNumbers, rentNumbers } from './store.ts';

const area = 'Number shop';
const mostAtOnce = 50;

const offerView = Joi.object({
  number: Joi.string().required(),
  country: Joi.string().required(),
  kind: Joi.string().valid('local', 'tollFree').required(),
  place: Joi.string().required(),
  voice: Joi.boolean().required(),
  text: Joi.boolean().required(),
  monthly: Joi.string().required(),
  reports: Joi.array()
    .items(Joi.object({ by: Joi.string().required(), on: Joi.string().required() }))
    .required(),
  held: Joi.string().valid('you', 'other').allow(null),
});

const numbersBody = Joi.object<{ numbers: string[] }>({
  numbers: Joi.array()
    .items(publicNumber)
    .min(1)
    .max(mostAtOnce)
    .unique()
    .required()
    .messages({
      'array.min': 'Choose a number first.',
      'array.max': `At most ${mostAtOnce} numbers at once.`,
    }),
});

export function numberShopRoutes({ database }: Services, shop: Shop | null): Route[] {
  const open = (): Shop => {
    if (shop === null) throw new Problem('notNow', 'No number shop is connected to this installation.');
    return shop;
  };
  return [
    route({
      method: 'GET',
      path: '/api/number-shop/countries',
      area,
      summary: 'Where the shop sells numbers, of which kinds, and why not elsewhere',
      who: readers,
      reply: Joi.array().items(
        Joi.object({
          code: Joi.string().required(),
          name: Joi.string().required(),
          kinds: Joi.array()
            .items(
              Joi.object({
                kind: Joi.string().valid('local', 'tollFree').required(),
                text: Joi.boolean().required(),
              }),
            )
            .required(),
          nothingBecause: Joi.string().allow(null).required(),
        }),
      ),
      errors: ['notNow'],
      handle: () => open().countries(),
    }),
    route({
      method: 'GET',
      path: '/api/number-shop/numbers',
      area,
      summary: 'What is free: by country, kind, area code or city, and whether it can text',
      who: readers,
      perMinute: 240,
      query: Joi.object<{ country: string; kind: string; area?: string; place?: string; text?: boolean }>({
        country: Joi.string().length(2).uppercase().required(),
        kind: Joi.string().valid('local', 'tollFree').required(),
        area: Joi.string()
          .allow('')
          .pattern(/^\d{0,6}$/)
          .messages({ 'string.pattern.base': 'An area code is digits, for example 206.' }),
        place: Joi.string().allow('').max(60),
        text: Joi.boolean(),
      }),
      reply: Joi.array().items(offerView),
      errors: ['notNow'],
      handle: ({ query }) =>
        open().find({
          country: query.country,
          kind: query.kind,
          area: query.area ?? '',
          place: query.place ?? '',
          text: String(query.text ?? false),
        }),
    }),
    route({
      method: 'GET',
      path: '/api/number-shop/holds',
      area,
      summary: 'What is held at the shop now, and until when',
      who: readers,
      reply: Joi.array().items(
        Joi.object({
          number: Joi.string().required(),
          offer: offerView.required(),
          until: Joi.string().required(),
          by: Joi.string().required(),
        }),
      ),
      errors: [],
      handle: () => holds(database),
    }),
    route({
      method: 'POST',
      path: '/api/number-shop/holds',
      area,
      summary: 'Hold numbers for ten minutes: all of them or none',
      who: editors,
      body: numbersBody,
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: async ({ body, caller }) => {
        await holdNumbers(database, open(), body.numbers, signedIn(caller).personId);
        return null;
      },
    }),
    route({
      method: 'DELETE',
      path: '/api/number-shop/holds',
      area,
      summary: 'Let held numbers go',
      who: editors,
      body: numbersBody,
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: async ({ body }) => {
        await releaseNumbers(database, open(), body.numbers);
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/number-shop/rentals',
      area,
      summary: 'Rent what is held, once, and pay the first month',
      who: editors,
      body: numbersBody,
      reply: Joi.object({ ids: Joi.array().items(Joi.string()).required() }),
      errors: ['notNow', 'taken'],
      handle: async ({ body, caller }) => ({
        ids: await database.transaction((trx) =>
          rentNumbers(trx, open(), body.numbers, authorOf(signedIn(caller).personId)),
        ),
      }),
    }),
  ];
}
