import type { CompiledStep, StepKindName } from '../model/plan.ts';
import type { PlanDocument } from '../plan/document.ts';
import { configFault } from '../plan/config-fault.ts';
import { mostRules, type Rule, rulesFault } from '../plan/rules.ts';
import { stepKinds } from '../plan/registry.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  choice,
  dictionary,
  fieldsOfSomeKind,
  flag,
  id,
  instant,
  list,
  name,
  nullable,
  object,
  type Out,
  type Part,
  ruled,
  text,
  whole,
} from './parts.ts';

/** Larger ones cannot be read by anybody; a plan goes on in another. */
export const mostSteps = 400;

const stepId = ruled(text(20), (value) =>
  /^[a-z]\w*$/.test(value) ? null : 'A step is named by letters and digits.',
);

const step = object({
  kind: choice(...(Object.keys(stepKinds) as StepKindName[])),
  config: fieldsOfSomeKind,
  exits: dictionary(stepId, /^\w{1,30}$|^key[*#]$/, 60),
}) as Part<CompiledStep>;

/** A plan as it is built; whether it may be published is another question (plan/check.ts). */
export const planDocument = ruled(
  object({
    start: nullable(stepId),
    steps: dictionary(step, /^[a-z]\w{0,19}$/, mostSteps),
  }) as Part<PlanDocument>,
  ({ start, steps }) => {
    if (start !== null && !(start in steps)) return `It begins with step ${start}, which is not there.`;
    for (const [stepName, { kind, config, exits }] of Object.entries(steps)) {
      const fault = configFault(stepKinds[kind].fields, { ...stepKinds[kind].fresh, ...config }, true);
      if (fault !== null) return `Step ${stepName}: ${fault}.`;
      for (const [exit, target] of Object.entries(exits))
        if (!(target in steps))
          return `Step ${stepName} leads by ${exit} to step ${target}, which is not there.`;
    }
    return null;
  },
);

/** Who may work at a plan beside administrators (plan/rights.ts). */
export const planRights = object({ teamId: nullable(id), publishes: flag });

const published = object({ version: whole(1, 1_000_000), at: instant, by: nullable(text(80)) });

/** Answering plans: the draft people work at, and what callers meet. */
export const plans = itemContract(
  { area: 'Answering plans', path: '/api/plans', one: 'an answering plan', many: 'answering plans' },
  { name, document: planDocument },
  {
    published: nullable(published),
    /** What callers meet; null before the first publishing. */
    live: nullable(planDocument),
    /** When its draft is published, and when what is met now comes back; `fault` says why it was not. */
    scheduled: nullable(
      object({ publishAt: instant, backAt: nullable(instant), done: flag, fault: nullable(text(200)) }),
    ),
    rights: planRights,
    numbers: list(object({ id, label: text(200), e164: text(20) }), 10_000),
    uses: whole(0, 1_000_000),
  },
);

/** When a draft is to be published, and when to go back. */
export const planScheduling = object({ publishAt: instant, backAt: nullable(instant) });

/** Rules as they are being built. */
export const rulesAsked = object({
  rules: ruled(list(fieldsOfSomeKind, mostRules), (value) =>
    rulesFault('Rules', value, true),
  ) as unknown as Part<Rule[]>,
  /** Of calls to the numbers that lead to this plan; null, or a plan without numbers: of all that came in. */
  planId: nullable(id),
});

/** How many callers of the last weeks each rule would have taken. */
export const rulesCaught = object({
  days: whole(1, 366),
  calls: whole(0, 1_000_000_000),
  /** Null for one that asks what is not known of calls that are over: keys, languages, how queues stood. */
  caught: list(object({ id: text(20), calls: nullable(whole(0, 1_000_000_000)) }), 100),
  none: whole(0, 1_000_000_000),
  /** Calls of which it cannot be said. */
  unknown: whole(0, 1_000_000_000),
});
export type RulesCaught = Out<typeof rulesCaught>;

/** One of the versions that were published. */
export const planVersion = object({
  ...{ version: whole(1, 1_000_000), at: instant, by: nullable(text(80)) },
  document: planDocument,
});

export type PlansContract = typeof plans;
export type PlanDraft = DraftOf<PlansContract>;
export type PlanView = ViewOf<PlansContract>;
