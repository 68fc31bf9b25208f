import Joi from 'joi';
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { emergencyAddress } from '@night-bell/core/model/emergency-address.schema';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { answerEnrolment, type Enrolment, enrolmentOf, fetchSetUp } from './enrolment.ts';
import { codecsView, modelView, transportView } from './schemas.ts';

const area = 'Phones';
const code = Joi.string().max(40).required();

/** A new phone, or the person who holds it, with nothing but a one-time code, which nobody guesses (98 bits). */
export function enrolmentRoutes({ database, seal, live }: Services): Route[] {
  return [
    route({
      method: 'POST',
      path: '/api/enrolments/look',
      area,
      summary: 'How far an enrolment is, and what only the person at the phone can say',
      who: 'anybody',
      perMinute: 240,
      body: Joi.object<{ code: string }>({ code }),
      reply: Joi.object<Enrolment, true>({
        name: Joi.string().required(),
        model: modelView.required(),
        account: Joi.string().required(),
        expiresAt: Joi.string().required(),
        fetched: Joi.boolean().required(),
        registered: Joi.boolean().required(),
        missing: Joi.array().items(Joi.string().valid('timeZone', 'emergencyAddress')).required(),
      }),
      errors: ['wrongSignIn'],
      handle: ({ body }) => enrolmentOf(database, seal, body.code, live.ready ? live.exchange : null),
    }),
    route({
      method: 'PUT',
      path: '/api/enrolments/answers',
      area,
      summary: 'What the person at the phone says: their time zone, where help is sent',
      who: 'anybody',
      perMinute: 60,
      body: Joi.object<{ code: string; timeZone?: string; emergencyAddress?: EmergencyAddress }>({
        code,
        timeZone: Joi.string().max(60),
        emergencyAddress: emergencyAddress.disallow(null),
      }),
      reply: Joi.object({ kept: Joi.boolean().required() }),
      errors: ['wrongSignIn', 'notNow'],
      handle: async ({ body: { code: given, ...answers } }) => {
        await database.transaction((trx) => answerEnrolment(trx, seal, given, answers));
        return { kept: true };
      },
    }),
    route({
      method: 'POST',
      path: '/api/enrolments',
      area,
      summary: 'A new phone fetches its set-up with a one-time code',
      who: 'anybody',
      perMinute: 4_000,
      body: Joi.object<{ code: string }>({ code }),
      reply: Joi.object({
        account: Joi.string().required(),
        domain: Joi.string().required(),
        secret: Joi.string().required(),
        name: Joi.string().required(),
        transport: transportView.required(),
        codecs: codecsView.required(),
        timeZone: Joi.string().allow(null).required(),
        home: Joi.boolean().required(),
        model: modelView.required(),
      }),
      errors: ['wrongSignIn'],
      handle: ({ body }) => fetchSetUp(database, seal, body.code),
    }),
  ];
}
