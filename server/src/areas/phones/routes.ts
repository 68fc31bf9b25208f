import Joi from 'joi';
import type { Knex } from 'knex';
import { misbehaviours, type Misbehaviour } from '@night-bell/core/devices/protocol';
import { type PhoneDraft, phoneDraft } from '@night-bell/core/model/phones.schema';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Gateways } from '../../live/gateways.ts';
import { phoneHealth, type PhoneHealth } from './health.ts';
import type { Services } from '../../services.ts';
import { announceChange, authorOf } from '../../spine/items.ts';
import { getPerson } from '../people/store.ts';
import { codecsView, phoneSecretView, phoneView, transportView } from './schemas.ts';
import { newSecrets } from './secrets.ts';
import { changePhone, createPhones, getPhone, orderPhones, phoneSnapshot, retirePhone } from './store.ts';

const area = 'Phones';

const healthView = Joi.object<PhoneHealth, true>({
  registration: Joi.string().valid('registered', 'unregistered', 'refused').required(),
  since: Joi.number().allow(null).required(),
  address: Joi.string().allow(null).required(),
  fault: Joi.string().allow(null).required(),
  what: Joi.string().allow('').required(),
  mend: Joi.string()
    .valid('newSetUp', 'useTransport', 'behindRouter', 'allowCodecs', 'askAgain')
    .allow(null)
    .required(),
  button: Joi.string().allow('').required(),
  transport: transportView.allow(null).required(),
  codecs: codecsView.allow(null).required(),
  source: Joi.string().allow(null).required(),
  moves: Joi.number().integer().required(),
  standIn: Joi.object({
    account: Joi.string().required(),
    misbehaves: Joi.string()
      .valid(...misbehaviours)
      .allow(null)
      .required(),
    display: Joi.array().items(Joi.string()),
  })
    .allow(null)
    .required(),
  messages: Joi.array()
    .items(
      Joi.object({
        at: Joi.number().required(),
        from: Joi.string().valid('there', 'here').required(),
        start: Joi.string().required(),
        text: Joi.string().required(),
      }),
    )
    .required(),
});

const secretReply = phoneSecretView;

export function phoneRoutes({ database, seal, live }: Services, gateways: Gateways): Route[] {
  const within = <T>(work: (trx: Knex.Transaction) => Promise<T>) => database.transaction(work);
  return [
    route({
      method: 'POST',
      path: '/api/people/:id/phones',
      area,
      summary: 'Give a person another phone, last in ring order; its secret is shown this once',
      who: editors,
      params: idParams,
      body: phoneDraft,
      reply: Joi.object({ phoneId: Joi.string().required(), secret: secretReply.required() }),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body, caller }) => {
        const person = await getPerson(database, params.id);
        if (person.retired) throw new Problem('notNow', `${person.name} is deactivated. Reactivate first.`);
        return within(async (trx) => {
          const owner = { personId: person.id, name: person.name, account: `s${person.extension}` };
          const made = await createPhones(
            trx,
            [{ ...owner, draft: body }],
            authorOf(signedIn(caller).personId),
          );
          const [secret] = await newSecrets(trx, seal, made);
          await announceChange(trx);
          return { phoneId: made[0]!.id, secret: secret! };
        });
      },
    }),
    route({
      method: 'PUT',
      path: '/api/people/:id/phone-order',
      area,
      summary: 'In which order the phones of a person are tried',
      who: editors,
      params: idParams,
      body: Joi.object<{ ids: string[] }>({ ids: Joi.array().items(Joi.string().guid()).max(20).required() }),
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body }) => {
        await within((trx) => orderPhones(trx, params.id, body.ids));
        return null;
      },
    }),
    route({
      method: 'PUT',
      path: '/api/phones/:id',
      area,
      summary: 'Change the settings of a phone',
      who: editors,
      params: idParams,
      body: phoneDraft,
      ifMatch: true,
      reply: phoneView,
      errors: ['notFound', 'notNow', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, body, version, caller }) => {
        await within((trx) =>
          changePhone(trx, params.id, version, body, authorOf(signedIn(caller).personId)),
        );
        return viewOf(params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/phones/:id/retire',
      area,
      summary: 'Take a phone away; its account no longer registers',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: nothing.allow(null),
      errors: ['notFound', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        await within((trx) => retirePhone(trx, params.id, version, authorOf(signedIn(caller).personId)));
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/phones/:id/set-up',
      area,
      summary: 'A new secret and enrolment code; the old secret stops working',
      who: editors,
      params: idParams,
      reply: secretReply,
      errors: ['notFound', 'notNow'],
      handle: async ({ params }) => {
        const phone = await getPhone(database, params.id);
        if (phone.model === null) throw new Problem('notNow', 'This phone does not register by SIP.');
        const [secret] = await within((trx) => newSecrets(trx, seal, [phone]));
        return secret!;
      },
    }),
    route({
      method: 'GET',
      path: '/api/phones/:id/health',
      area,
      summary: 'Registered or not, the last SIP messages, and in words what is wrong and what mends it',
      who: readers,
      params: idParams,
      reply: healthView,
      errors: ['notFound', 'exchangeAway'],
      handle: async ({ params }) => phoneHealth(await getPhone(database, params.id), live.exchange, gateways),
    }),
    route({
      method: 'POST',
      path: '/api/phones/:id/mend',
      area,
      summary: 'Do what mends the fault that the phone has now',
      who: editors,
      params: idParams,
      reply: Joi.object({ said: Joi.string().required(), secret: secretReply.allow(null).required() }),
      errors: ['notFound', 'notNow', 'exchangeAway'],
      handle: async ({ params, caller }) => {
        const phone = await getPhone(database, params.id);
        const health = phoneHealth(phone, live.exchange, gateways);
        const author = authorOf(signedIn(caller).personId);
        const change = async (fields: Partial<PhoneDraft>, said: string) => {
          const draft = { ...phoneSnapshot(phone), ...fields };
          await within((trx) => changePhone(trx, phone.id, phone.version, draft, author));
          gateways.askAgain(phone.id, phone.account);
          return { said, secret: null };
        };
        switch (health.mend) {
          case 'newSetUp': {
            const [secret] = await within((trx) => newSecrets(trx, seal, [phone]));
            if (health.standIn === null) return { said: 'Hand the new code to the phone.', secret: secret! };
            gateways.standIns.tell({ kind: 'enrol', code: secret!.enrolmentCode });
            return { said: 'The stand-in phone fetches its new set-up.', secret: null };
          }
          case 'useTransport': {
            if (health.transport === null)
              throw new Problem('notNow', 'The phone has not said what it uses.');
            const word = health.transport.toUpperCase();
            return change({ transport: health.transport }, `${word} is allowed for this phone.`);
          }
          case 'behindRouter':
            return change({ home: true }, 'Calls now go where the phone sends from.');
          case 'allowCodecs':
            return change(
              { codecs: [...new Set([...phone.codecs, ...(health.codecs ?? [])])] },
              `${(health.codecs ?? []).join(', ')} allowed for this phone.`,
            );
          case 'askAgain':
            if (!gateways.askAgain(phone.id, phone.account))
              throw new Problem('notNow', 'No gateway is connected that could reach the phone.');
            return { said: 'The phone was asked to register.', secret: null };
          case null:
            throw new Problem('notNow', 'Nothing is wrong with this phone that could be mended here.');
        }
      },
    }),
    route({
      method: 'PUT',
      path: '/api/stand-ins/phones/:id',
      area: 'Stand-ins',
      summary: 'Have a stand-in phone go wrong in one way, or behave again',
      who: operators,
      params: idParams,
      body: Joi.object<{ how: Misbehaviour | null }>({
        how: Joi.string()
          .valid(...misbehaviours)
          .allow(null)
          .required(),
      }),
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body }) => {
        const { account } = await getPhone(database, params.id);
        if (!gateways.standIns.tell({ kind: 'misbehave', device: account, how: body.how }))
          throw new Problem('notNow', 'The stand-ins are not connected.');
        return null;
      },
    }),
  ];

  async function viewOf(id: string) {
    const { personId: _person, personName: _name, ...phone } = await getPhone(database, id);
    return phone;
  }
}
