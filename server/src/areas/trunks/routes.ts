import Joi from 'joi';
import type { Knex } from 'knex';
import { priceFor } from '@night-bell/core/dialling/price';
import { DialPlan } from '@night-bell/core/dialling/rules';
import { tradeCauses } from '@night-bell/core/story/causes';
import { publicNumber } from '@night-bell/core/model/fields.schema';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { objectSchema } from '@night-bell/core/contracts/item';
import {
  certificateFacts as certificateView,
  trunks,
  type TrunkView,
} from '@night-bell/core/contracts/trunks';
import { trunkFaultWords } from '@night-bell/core/sip/trunk-faults';
import { Problem } from '../../http/problems.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, nothing, route, type Route } from '../../http/route.ts';
import type { Gateways } from '../../live/gateways.ts';
import type { Services } from '../../services.ts';
import { announceChange } from '../../spine/items.ts';
import { ruleItem } from '../rules/store.ts';
import { installation } from '../session/store.ts';
import { certificateFacts, checkCertificate, type KeyedCertificate, makeCertificate } from './certificate.ts';
import { setTrunkSecret, trunkItem } from './store.ts';

const { area } = trunks;
const text = Joi.string().allow('').required();

const stateView = Joi.object({
  id: Joi.string().required(),
  registration: Joi.string().valid('open', 'registered', 'unregistered', 'refused').required(),
  since: Joi.number().allow(null).required(),
  reached: Joi.boolean().required(),
  what: text,
  mend: Joi.string()
    .valid('typeSecret', 'useTransport', 'makeCertificate', 'tryAgain')
    .allow(null)
    .required(),
  button: text,
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

export function trunkRoutes(services: Services, gateways: Gateways): Route[] {
  const { database, seal } = services;
  const within = <T>(work: (trx: Knex.Transaction) => Promise<T>) => database.transaction(work);

  const stateOf = (trunk: TrunkView, withMessages: boolean) => {
    const reached = gateways.reaches(trunk.host);
    const state = gateways.lines.state(trunk.id);
    const fault = !reached ? ('not reached' as const) : (state?.fault ?? null);
    const words =
      fault === null ? { what: '', mend: null, button: '' } : trunkFaultWords(fault, state?.detail ?? '');
    return {
      id: trunk.id,
      registration: state?.registration ?? (trunk.registers ? 'unregistered' : 'open'),
      since: state?.since ?? null,
      reached,
      ...words,
      messages: withMessages
        ? gateways.lines
            .messages(trunk.id)
            .map((message) => ({ ...message, start: message.text.split('\r\n', 1)[0]! }))
        : [],
    };
  };

  return [
    ...itemRoutes(services, trunkItem, {
      written: async (trx, id, { secret }) => {
        if (secret !== undefined) await setTrunkSecret(trx, seal, id, secret);
      },
    }),
    route({
      method: 'GET',
      path: '/api/trunk-states',
      area,
      summary: 'Whether each trunk in use is reached and registered',
      who: readers,
      reply: Joi.array().items(stateView),
      errors: [],
      handle: async () =>
        (await trunkItem.list(database))
          .filter((trunk) => !trunk.retired)
          .map((trunk) => stateOf(trunk, false)),
    }),
    route({
      method: 'GET',
      path: '/api/trunks/:id/state',
      area,
      summary: 'Registered or not, the last SIP messages, and in words what is wrong and what mends it',
      who: readers,
      params: idParams,
      reply: stateView,
      errors: ['notFound'],
      handle: async ({ params }) => stateOf(await trunkItem.get(database, params.id), true),
    }),
    route({
      method: 'POST',
      path: '/api/trunks/:id/register',
      area,
      summary: 'Register at the provider now, not when it is due',
      who: operators,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params }) => {
        await trunkItem.get(database, params.id);
        await gateways.lines.again(params.id, Date.now());
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/trunks/:id/certificate',
      area,
      summary: 'Make a certificate for this trunk, or bring one with its key as PEM',
      who: editors,
      params: idParams,
      body: Joi.object<Partial<KeyedCertificate>>({
        certificate: Joi.string().max(20_000),
        key: Joi.string().max(20_000),
      })
        .and('certificate', 'key')
        .messages({ 'object.and': 'Bring the certificate and its key together.' }),
      reply: objectSchema(certificateView),
      errors: ['notFound'],
      handle: async ({ params, body }) => {
        const trunk = await trunkItem.get(database, params.id);
        const pair =
          body.certificate === undefined || body.key === undefined
            ? await makeCertificate(trunk.account, (await installation(database)).name)
            : { certificate: body.certificate, key: body.key };
        checkCertificate(pair, trunk.account);
        await within(async (trx) => {
          await trx('trunk')
            .where({ id: params.id })
            .update({ certificate: pair.certificate, certificate_key_sealed: seal.seal(pair.key) });
          await announceChange(trx);
        });
        return certificateFacts(pair.certificate);
      },
    }),
    route({
      method: 'POST',
      path: '/api/trunks/:id/ring',
      area,
      summary: 'Ring one number over this trunk and say each step; nobody here is rung',
      who: operators,
      perMinute: 20,
      params: idParams,
      body: Joi.object<{ to: string; callerId: string | null }>({
        to: publicNumber.required(),
        callerId: publicNumber.allow(null).default(null),
      }),
      reply: Joi.object({
        digits: Joi.string().required(),
        rule: Joi.string().allow(null).required(),
        callerId: text,
        perMinute: Joi.string().allow(null).required(),
        steps: Joi.array()
          .items(
            Joi.object({
              afterMs: Joi.number().required(),
              what: Joi.string().valid('dialled', 'answered', 'hungUp', 'failed', 'timedOut').required(),
              cause: Joi.string().allow(null).required(),
              trade: text,
            }),
          )
          .required(),
      }),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body }) => {
        const trunk = await trunkItem.get(database, params.id);
        if (trunk.retired) throw new Problem('notNow', `${trunk.name} is deactivated.`);
        if (!gateways.lines.isOpen(trunk.id)) {
          const { what } = stateOf(trunk, false);
          throw new Problem('notNow', `${trunk.name} is not registered. ${what}`.trim());
        }
        const callerId = trunk.callerId ?? body.callerId ?? '';
        if (callerId !== '' && (await database('number').where({ e164: callerId }).first('id')) === undefined)
          throw Problem.field('/callerId', 'Caller ID can only be a number held here.');
        const plan = new DialPlan((await ruleItem.list(database)).filter((rule) => !rule.retired));
        const decision = plan.decide(body.to, { kind: 'person', teamId: null });
        if (decision.kind === 'emergency')
          throw Problem.field(
            '/to',
            'Emergency numbers are not rung for a trial. 933 is for that, from a phone.',
          );
        const digits = 'digits' in decision ? decision.digits : body.to;
        const ringing = gateways.trials.ring({
          trunkHost: trunk.host,
          account: trunk.account,
          digits,
          callerId,
        });
        if (ringing === null) throw new Problem('notNow', `No gateway reaches ${trunk.host}.`);
        const steps = await ringing;
        return {
          digits,
          rule: decision.kind === 'rule' ? decision.rule.name : null,
          callerId,
          perMinute: priceFor(trunk.prices, digits)?.perMinute ?? null,
          steps: steps.map((step) => ({
            ...step,
            trade:
              step.cause === null
                ? ''
                : `${tradeCauses[step.cause].sip} ${tradeCauses[step.cause].sipReason}, cause ${tradeCauses[step.cause].q850}`,
          })),
        };
      },
    }),
  ];
}
