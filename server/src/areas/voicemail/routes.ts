import { objectSchema } from '@night-bell/core/contracts/item';
import { pinChange, voicemailBoxes } from '@night-bell/core/contracts/voicemail-boxes';
import { roles } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import { randomInt } from 'node:crypto';
import type { Gateways } from '../../live/gateways.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { messageRoutes } from './message-routes.ts';
import { setBoxPin, voicemailItem } from './store.ts';

const pinDigits = 6;

export function voicemailRoutes(services: Services, gateways: Gateways): Route[] {
  const { database, mail } = services;
  return [
    ...itemRoutes(services, voicemailItem),
    route({
      method: 'POST',
      path: `${voicemailBoxes.path}/:id/pin`,
      area: voicemailBoxes.area,
      summary: 'Set the PIN of a box, have one made and sent by mail, or take it away. It is never shown',
      who: roles.filter((role) => role !== 'auditor'),
      perMinute: 30,
      params: idParams,
      body: objectSchema(pinChange),
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body, caller }) => {
        const me = signedIn(caller);
        const box = await voicemailItem.get(database, params.id);
        if (me.role !== 'administrator' && box.ownerId !== me.personId)
          throw new Problem('notAllowed', 'The PIN of a box is set by its owner, or by an administrator.');
        const author = authorOf(me.personId);
        if (!body.send) {
          const what = body.pin === null ? 'pinTaken' : 'pinSet';
          await database.transaction((trx) => setBoxPin(trx, box.id, body.pin, what, author));
          return null;
        }
        const [to] = box.mailTo;
        if (to === undefined)
          throw Problem.field('/mailTo', 'Name an address for new messages first; the PIN is sent there.');
        const pin = String(randomInt(10 ** pinDigits)).padStart(pinDigits, '0');
        // It goes out before it holds, and is kept nowhere: not in the outbox either.
        await mail
          .send({
            to,
            subject: `PIN of ${box.name}`,
            text: `The PIN of ${box.name} is ${pin}.\n\nSet another at your desk in Night Bell.\n`,
          })
          .catch(() => {
            throw new Problem(
              'notNow',
              'The letter could not be sent, and the PIN is as it was. Try again later.',
            );
          });
        await database.transaction((trx) => setBoxPin(trx, box.id, pin, 'pinSent', author));
        return null;
      },
    }),
    ...messageRoutes(services, gateways),
  ];
}
