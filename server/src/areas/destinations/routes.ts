import Joi from 'joi';
import { destinationKinds } from '@night-bell/core/model/destination';
import { readers } from '@night-bell/core/model/roles';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';

export function destinationRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/destinations',
      area: 'Destinations',
      summary: 'Everything a call can be sent to',
      who: readers,
      reply: Joi.array().items(
        Joi.object({
          kind: Joi.string()
            .valid(...destinationKinds)
            .required(),
          id: Joi.string().required(),
          name: Joi.string().required(),
          extension: Joi.string().allow(null).required(),
        }),
      ),
      errors: [],
      handle: () =>
        database('item as i')
          .leftJoin('extension as e', 'e.item_id', 'i.id')
          .leftJoin('voicemail_box as v', 'v.id', 'i.id')
          .leftJoin('item as o', 'o.id', 'v.owner_id')
          .whereIn('i.kind', [...destinationKinds])
          .whereNull('i.retired_at')
          .whereNull('o.retired_at')
          .orderByRaw(
            `case i.kind when 'queue' then 0 when 'voicemail' then 1 when 'person' then 3 else 2 end, i.name, i.id`,
          )
          .select('i.kind', 'i.id', 'i.name', 'e.digits as extension'),
    }),
  ];
}
