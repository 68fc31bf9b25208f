import type { Knex } from 'knex';
import { type PlanDraft, plans, type PlanView } from '@night-bell/core/contracts/plans';
import { type CheckView, checkPlan, type PlanFinding } from '@night-bell/core/plan/check';
import { compiledPlan, completed, type PlanDocument } from '@night-bell/core/plan/document';
import { referencesOf } from '@night-bell/core/plan/fields';
import { findingWords } from '@night-bell/core/plan/finding-words';
import type { ItemKind } from '@night-bell/core/plan/item-kind';
import { ownFields } from '@night-bell/core/plan/record-fields';
import { outline } from '@night-bell/core/plan/outline';
import { plansFrom } from '@night-bell/core/plan/graph';
import { stepKinds } from '@night-bell/core/plan/registry';
import { compiledHours, hoursItem } from '../hours/store.ts';
import { alsoIn } from '../prompts/translations.ts';
import { Problem } from '../../http/problems.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';
import { hidingExtensions } from '../../spine/extensions.ts';
import { recordFields } from '../desk/script.ts';
import type { Author, Reference } from '../../spine/items.ts';
import { publishItem } from '../../spine/publish.ts';

interface Row extends PlanDraft {
  id: string;
  version: number;
  retired: boolean;
  publishedVersion: number | null;
  live: PlanDocument | null;
  scheduled: { publishAt: string; backAt: string | null; done: boolean; fault: string | null } | null;
  publishedAt: Date | null;
  publishedBy: string | null;
  rights: PlanView['rights'];
  numbers: PlanView['numbers'];
  uses: number;
}

/** What a plan names, in its draft or in what callers meet. */
export function referencesIn(document: PlanDocument | null): Reference[] {
  return Object.values(document?.steps ?? {}).flatMap(({ kind, config }) =>
    referencesOf(stepKinds[kind].fields, config)
      .filter(({ id }) => id !== '')
      .map(({ id }) => ({ to: id, how: 'step' })),
  );
}

/** The team whose leads may work at a plan. */
export const workedAtBy = (teamId: string | null): Reference[] =>
  teamId === null ? [] : [{ to: teamId, how: 'worked at by' }];

const ofTheVersion = (column: string) =>
  `(select ${column} from plan_version v left join item b on b.id = v.by_person
    where v.plan_id = t.id and v.version = t.published_version)`;

export const planItem = defineItem<typeof plans.path, PlanDraft, PlanView, Row>({
  kind: 'plan',
  contract: plans,
  word: 'answering plan',
  table: 'plan',
  columns: { document: { column: 'document', json: true } },
  more: {
    publishedVersion: 't.published_version',
    live: ofTheVersion('v.document'),
    publishedAt: ofTheVersion('v.at'),
    publishedBy: ofTheVersion('b.name'),
    numbers: `coalesce((select json_agg(json_build_object('id', n.id, 'label', l.name, 'e164', n.e164) order by n.e164)
      from number n join item l on l.id = n.id join item_reference r on r.from_item = n.id
      where r.to_item = t.id and r.how = 'leads to' and l.retired_at is null), '[]')`,
    scheduled: `(select json_build_object('publishAt', s.publish_at, 'backAt', s.back_at, 'done', s.back_to is not null,
      'fault', s.fault) from plan_schedule s where s.plan_id = t.id)`,
    rights: `json_build_object('teamId', t.team_id, 'publishes', t.team_publishes)`,
    uses: usesOf,
  },
  view: ({ publishedVersion, publishedAt, publishedBy, live, document, scheduled, ...row }) => ({
    ...row,
    document: completed(document),
    live: live === null ? null : completed(live),
    scheduled:
      scheduled === null
        ? null
        : {
            ...scheduled,
            publishAt: Date.parse(scheduled.publishAt),
            backAt: scheduled.backAt === null ? null : Date.parse(scheduled.backAt),
          },
    published:
      publishedVersion === null || publishedAt === null
        ? null
        : { version: publishedVersion, at: publishedAt.getTime(), by: publishedBy },
  }),
  references: ({ document }, current) => [
    ...referencesIn(document),
    ...referencesIn(current?.live ?? null),
    ...workedAtBy(current?.rights.teamId ?? null),
  ],
  check: async (trx, { document }) => {
    const named = [...new Set(referencesIn(document).map(({ to }) => to))];
    const known = await trx('item').whereRaw('id::text = any(?)', [named]).pluck<string[]>('id');
    const unknown = named.find((id) => !known.includes(id));
    if (unknown !== undefined)
      throw Problem.field('/document', `A step names ${unknown}, which does not exist. Choose another.`);
  },
});

/** What the check asks of the set-up, read once. */
async function viewForCheck(trx: Knex, planId: string, document: PlanDocument): Promise<CheckView> {
  const ids = referencesIn(document).map(({ to }) => to);
  const rows = await trx('item as i')
    .leftJoin('prompt as p', 'p.id', 'i.id')
    .whereIn('i.id', ids)
    .whereNull('i.retired_at')
    .select<{ id: string; kind: string; words: string | null; language: string | null }[]>(
      ...['i.id', 'i.kind', 'p.words', 'p.language'],
    );
  const byId = new Map(rows.map((row) => [row.id, row]));
  const sets = new Map((await hoursItem.list(trx)).map((set) => [set.id, compiledHours(set)]));
  const plans = new Map((await planItem.list(trx)).map((plan) => [plan.id, plan]));
  const translations = await alsoIn(trx, ids);
  const [hiding = null] = await hidingExtensions(trx);
  const asksRecords = Object.values(document.steps).some(
    ({ kind }) => kind === 'rules' || kind === 'textBack',
  );
  const fields = asksRecords ? ownFields(await recordFields(trx)) : null;
  return {
    hours: (id) => sets.get(id),
    leadsTo: (id) => plansFrom(plans.get(id)?.live ?? null),
    numbers: () => (plans.get(planId)?.numbers ?? []).map(({ e164 }) => e164),
    hidingExtensions: () => hiding,
    recordFields: () => fields,
    has: (kind, id) => byId.get(id)?.kind === kind,
    words: (id) => byId.get(id)?.words ?? null,
    languages: (id) => [byId.get(id)?.language ?? [], translations.get(id) ?? []].flat(),
  };
}

/** What stops a plan from being published. */
export async function faultsIn(database: Knex, id: string, document: PlanDocument): Promise<PlanFinding[]> {
  const findings = checkPlan(compiledPlan(id, 0, document), await viewForCheck(database, id, document));
  return findings.filter(({ grade }) => grade === 'fault');
}

/** What is wrong or doubtful in what callers meet, in sentences, with the number of the step it is at. */
export async function foundIn(
  database: Knex,
  id: string,
  document: PlanDocument,
): Promise<{ grade: 'fault' | 'doubt'; stepId: string; number: string; words: string }[]> {
  const findings = checkPlan(compiledPlan(id, 0, document), await viewForCheck(database, id, document));
  if (findings.length === 0) return [];
  const ids = referencesIn(document).map(({ to }) => to);
  const rows = await database('item').whereIn('id', ids).select<{ id: string; name: string }[]>('id', 'name');
  const names = new Map(rows.map((row) => [row.id, row.name]));
  const numbers = new Map(
    outline(document).flatMap((line) => (line.kind === 'step' ? [[line.stepId, line.number] as const] : [])),
  );
  const numberOf = (stepId: string) => numbers.get(stepId) ?? '?';
  const nameOf = (_kind: ItemKind, itemId: string) => names.get(itemId) ?? 'of before';
  return findings.map((finding) => ({
    ...{ grade: finding.grade, stepId: finding.stepId, number: numberOf(finding.stepId) },
    words: findingWords(finding, nameOf, numberOf),
  }));
}

/** From now on callers meet the draft. Refused while it has a fault. */
export async function publishPlan(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const { document, published } = await planItem.get(trx, id);
  const findings = await faultsIn(trx, id, document);
  const faults = findings.length;
  if (faults > 0)
    throw new Problem(
      'notNow',
      faults === 1
        ? 'A fault in a step stops publishing. It stands at the step.'
        : `${faults} faults stop publishing. They stand at their steps.`,
      [],
      { findings },
    );
  await publishDocument(trx, { id, version, published }, document, author);
}

/** Callers meet this document from now on, as a version of its own. */
export async function publishDocument(
  trx: Knex.Transaction,
  { id, version, published }: Pick<PlanView, 'id' | 'version' | 'published'>,
  document: PlanDocument,
  author: Author,
): Promise<void> {
  const next = (published?.version ?? 0) + 1;
  await publishItem(trx, { kind: 'plan', id, version, after: { version: next } }, author);
  await trx('plan_version').insert({
    ...{ plan_id: id, version: next, document: JSON.stringify(document), by_person: author.personId },
  });
  await trx('plan').where({ id }).update({ published_version: next });
}

/** All that was published, newest first. */
export async function planVersions(database: Knex, id: string) {
  const rows = await database('plan_version as v')
    .leftJoin('item as b', 'b.id', 'v.by_person')
    .where('v.plan_id', id)
    .orderBy('v.version', 'desc')
    .limit(200)
    .select<{ version: number; document: PlanDocument; at: Date; by: string | null }[]>(
      'v.version',
      'v.document',
      'v.at',
      'b.name as by',
    );
  return rows.map((row) => ({ ...row, document: completed(row.document), at: row.at.getTime() }));
}
