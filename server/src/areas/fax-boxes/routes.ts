import Joi from 'joi';
import { faxBoxes } from '@night-bell/core/contracts/destinations';
import { operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { type Fax, faxBoxItem, faxesOf } from './store.ts';

export function faxBoxRoutes(services: Services): Route[] {
  const { database } = services;
  return [
    ...itemRoutes(services, faxBoxItem),
    route({
      method: 'GET',
      path: '/api/fax-boxes/:id/faxes',
      area: faxBoxes.area,
      summary: 'The faxes in a box, latest first',
      who: readers,
      params: idParams,
      reply: Joi.array().items(
        Joi.object<Fax, true>({
          id: Joi.string().required(),
          sender: Joi.string().allow('').required(),
          pages: Joi.number().integer().required(),
          at: Joi.string().required(),
          callId: Joi.string().required(),
        }),
      ),
      errors: ['notFound'],
      handle: async ({ params }) => {
        await faxBoxItem.get(database, params.id);
        return faxesOf(database, params.id);
      },
    }),
    route({
      method: 'GET',
      path: '/api/faxes/:id/file',
      area: faxBoxes.area,
      summary: 'A fax as the file that came in (PDF)',
      who: operators,
      params: idParams,
      reply: Joi.any(),
      errors: ['notFound'],
      handle: async ({ params, reply }) => {
        const row = await database('fax')
          .where({ id: params.id })
          .first<{ file: Buffer } | undefined>('file');
        if (row === undefined) throw new Problem('notFound', 'There is no such fax.');
        // Shown by nobody but a viewer: never as a page of ours.
        await reply
          .header('content-type', 'application/pdf')
          .header('content-disposition', `attachment; filename="fax-${params.id.slice(-6)}.pdf"`)
          .send(row.file);
        return null;
      },
    }),
  ];
}
