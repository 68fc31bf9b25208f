import type { Knex } from 'knex';
import type { DialPlan } from '@night-bell/core/dialling/rules';
import { countryOf } from '@night-bell/core/numbers/country';

/** Countries that contacts of campaigns are in, and no rule carries calls to: such calls go out as they stand. */
export async function countriesWithoutRule(
  database: Knex,
  plan: DialPlan,
): Promise<{ country: string; contacts: number; example: string }[]> {
  if (plan.rules.length === 0) return [];
  // One number of each beginning is enough: rules that tell more places apart are told of by the tester.
  const rows = await database('contact as c')
    .join('campaign as k', 'k.id', 'c.campaign_id')
    .whereNot('k.status', 'finished')
    .groupByRaw('left(c.e164, 5)')
    .select<{ example: string; contacts: number }[]>(
      database.raw('min(c.e164) as example'),
      database.raw('count(*)::int as contacts'),
    );
  const found = new Map<string, { contacts: number; example: string }>();
  for (const { example, contacts } of rows) {
    if (plan.decide(example, { kind: 'campaign' }).kind !== 'noMatch') continue;
    const country = countryOf(example) ?? 'unknown';
    const known = found.get(country);
    found.set(country, { contacts: contacts + (known?.contacts ?? 0), example: known?.example ?? example });
  }
  return [...found].map(([country, rest]) => ({ country, ...rest }));
}
