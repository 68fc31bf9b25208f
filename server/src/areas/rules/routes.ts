import Joi from 'joi';
import { priceFor } from '@night-bell/core/dialling/price';
import { type Asker, DialPlan } from '@night-bell/core/dialling/rules';
import { ruleWarnings, type RuleWarning } from '@night-bell/core/dialling/warnings';
import { diallingRules, type RuleDraft } from '@night-bell/core/contracts/dialling-rules';
import { objectSchema } from '@night-bell/core/contracts/item';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { nothing, route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { trunkItem } from '../trunks/store.ts';
import { countriesWithoutRule } from './countries.ts';
import { orderRules, ruleItem } from './store.ts';

const { area } = diallingRules;
interface Trial {
  dialled: string;
  by: 'person' | 'campaign';
  teamId?: string | null;
  /** A rule as it is being edited, in place of the stored one, or besides them. */
  draft?: RuleDraft & { id?: string };
}

export function ruleRoutes(services: Services): Route[] {
  const { database } = services;
  const inUse = async () => (await ruleItem.list(database)).filter((rule) => !rule.retired);

  return [
    ...itemRoutes(services, ruleItem),
    route({
      method: 'PUT',
      path: '/api/dialling-rule-order',
      area,
      summary: 'The order that breaks ties between equally specific rules',
      who: editors,
      body: Joi.object<{ ids: string[] }>({
        ids: Joi.array().items(Joi.string().guid()).max(10_000).required(),
      }),
      reply: nothing.allow(null),
      errors: ['notNow'],
      handle: async ({ body }) => {
        await database.transaction((trx) => orderRules(trx, body.ids));
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/dialling-rules/try',
      area,
      summary: 'What would go out for these digits: the rule that wins, why others do not, trunk and price',
      who: operators,
      perMinute: 600,
      body: Joi.object<Trial>({
        dialled: Joi.string().trim().max(40).required().messages({ 'string.empty': 'Type what is dialled.' }),
        by: Joi.string().valid('person', 'campaign').default('person'),
        teamId: Joi.string().guid().allow(null),
        draft: objectSchema(diallingRules.draft).append({ id: Joi.string().guid() }).optional() as never,
      }),
      reply: Joi.object({
        kind: Joi.string().valid('emergency', 'rule', 'noRules', 'noMatch', 'notDialable').required(),
        digits: Joi.string().allow(null).required(),
        ruleId: Joi.string().allow(null).required(),
        trunks: Joi.array()
          .items(
            Joi.object({
              id: Joi.string().required(),
              name: Joi.string().required(),
              perMinute: Joi.string().allow(null).required(),
            }),
          )
          .required(),
        others: Joi.array()
          .items(
            Joi.object({
              ruleId: Joi.string().required(),
              name: Joi.string().required(),
              pattern: Joi.string().required(),
              why: Joi.string()
                .valid('wins', 'lessSpecific', 'noMatch', 'notForThem', 'emergency')
                .required(),
            }),
          )
          .required(),
      }),
      errors: [],
      handle: async ({ body }) => {
        const dialled = body.dialled.replace(/[\s().-]/g, '');
        const plan = new DialPlan(await withDraft(body.draft));
        const asker: Asker =
          body.by === 'campaign' ? { kind: 'campaign' } : { kind: 'person', teamId: body.teamId ?? null };
        const decision = plan.decide(dialled, asker);
        const trunks = (await trunkItem.list(database)).filter((trunk) => !trunk.retired);
        const ids =
          decision.kind === 'rule' && decision.rule.trunkIds.length > 0
            ? decision.rule.trunkIds
            : trunks.map((trunk) => trunk.id);
        const digits = 'digits' in decision ? decision.digits : null;
        return {
          kind: decision.kind,
          digits,
          ruleId: decision.kind === 'rule' ? decision.rule.id : null,
          trunks:
            digits === null
              ? []
              : ids.flatMap((id) => {
                  const trunk = trunks.find((each) => each.id === id);
                  if (trunk === undefined) return [];
                  const price = priceFor(trunk.prices, digits);
                  return [{ id, name: trunk.name, perMinute: price?.perMinute ?? null }];
                }),
          others: plan
            .explain(dialled, asker)
            .filter(({ why }, index) => why !== 'noMatch' || index < mostExplained)
            .slice(0, mostExplained)
            .map(({ rule, why }) => ({ ruleId: rule.id, name: rule.name, pattern: rule.pattern, why })),
        };
      },
    }),
    route({
      method: 'GET',
      path: '/api/dialling-rule-warnings',
      area,
      summary: 'What is doubtful about the rules: hidden, alike, careless, or missing for contacts',
      who: readers,
      reply: Joi.object({
        warnings: Joi.array()
          .items(
            Joi.object<RuleWarning>({
              kind: Joi.string().valid('shadowed', 'overlap', 'catchAll', 'emergency').required(),
              ruleId: Joi.string().required(),
            }).unknown(true),
          )
          .required(),
        countries: Joi.array()
          .items(
            Joi.object({
              country: Joi.string().required(),
              contacts: Joi.number().integer().required(),
              example: Joi.string().required(),
            }),
          )
          .required(),
      }),
      errors: [],
      handle: async () => {
        const plan = new DialPlan(await inUse());
        return { warnings: ruleWarnings(plan), countries: await countriesWithoutRule(database, plan) };
      },
    }),
  ];

  async function withDraft(draft: Trial['draft']) {
    const rules = await inUse();
    if (draft === undefined) return rules;
    const { id = 'draft', ...rest } = draft;
    const known = rules.some((rule) => rule.id === id);
    return known
      ? rules.map((rule) => (rule.id === id ? { id, ...rest } : rule))
      : [...rules, { id, ...rest }];
  }
}

const mostExplained = 200;
