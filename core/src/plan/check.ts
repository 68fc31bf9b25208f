import { minutesADay, type OpeningHours, type Range } from '../hours/opening-hours.ts';
import { heardIn } from '../model/languages.ts';
import { fieldKey, mergeFault, mergeParts } from '../match/merge.ts';
import { sameClock } from '../hours/same-clock.ts';
import { zonesOf } from '../numbers/facts.ts';
import { configFault } from './config-fault.ts';
import { type Fields, type ItemKind, referencesOf } from './fields.ts';
import type { CompiledPlan, CompiledStep, KeyChoice } from '../model/plan.ts';
import { reachableSteps } from './graph.ts';
import { keysSaid } from './keys-said.ts';
import { languagesAt } from './languages.ts';
import { stepKinds } from './registry.ts';
import { hiddenBy, type Rule } from './rules.ts';

/** Something about a plan that its owner should know, at the step where it is. A fault stops publishing, a doubt does not. */
export type PlanFinding = { stepId: string; grade: 'fault' | 'doubt' } & (
  | { code: 'noStart' | 'unknownKind' | 'unreachable' }
  | { code: 'config'; said: string }
  | { code: 'gone'; kind: ItemKind; id: string }
  /** An exit the kind does not have, or one that leads to no step. */
  | { code: 'exit'; exit: string }
  /** A way that callers may take, and that leads nowhere. */
  | { code: 'open'; exit: string; label: string }
  /** A circle that nobody leaves by a key. */
  | { code: 'circle'; steps: string[] }
  | { code: 'noKeys' }
  /** The words speak of a key the menu does not have; the menu has one the words do not speak of. */
  | { code: 'keyNotThere' | 'keyNotSaid'; key: string }
  /** Callers who chose this language hear the prompt in another. */
  | { code: 'languageMissing'; promptId: string; language: string }
  /** Other plans lead from here back to this one, and none of them returns: their ids, in order. */
  | { code: 'planCircle'; plans: string[] }
  /** What is behind closed, or behind open, can never be heard. */
  | { code: 'neverClosed' | 'neverOpen' }
  /** The hours are kept by another clock than that of the place these numbers are of. */
  | { code: 'otherClock'; zone: string; e164: string }
  /** Whoever types the shorter waits until the time between digits is over, for want of the longer. */
  /** An earlier rule takes everybody that this one would. */
  | { code: 'ruleHidden'; rule: number; by: number }
  /** A text names a field that does not exist, or leaves one open. */
  | { code: 'textField'; said: string }
  /** No record has a field of this name. */
  | { code: 'fieldNotThere'; rule: number; field: string }
  | { code: 'extensionHides'; shorter: string; longer: string }
);

/** Who types the longer one may have reached the shorter one before the end. */
export interface HidingPair {
  shorter: string;
  longer: string;
}

/** What the check asks of the set-up. */
export interface CheckView {
  /** Whether an item is there. */
  has(kind: ItemKind, id: string): boolean;
  /** The words of a prompt; null when they are not known. */
  words(promptId: string): string | null;
  /** The language of a prompt, then those it is also in (BCP 47); empty when they are not known. */
  languages(promptId: string): readonly string[];
  hours(id: string): OpeningHours | undefined;
  /** Answering plans that this one, as callers meet it, goes to; null when it comes back by itself. */
  leadsTo(planId: string): readonly string[] | null;
  /** Numbers that lead to the plan (E.164). */
  numbers(): readonly string[];
  /** Two extensions of which the shorter begins the longer; null when there are none. */
  hidingExtensions(): HidingPair | null;
  /** The fields that records have; null when they are not known. */
  recordFields(): readonly string[] | null;
}

/** Walks a plan as the run would, by the exits of each kind. */
export function checkPlan(plan: CompiledPlan, view: CheckView): PlanFinding[] {
  const findings: PlanFinding[] = [];
  if (!(plan.start in plan.steps)) findings.push({ stepId: plan.start, grade: 'fault', code: 'noStart' });
  const reachable = new Set(reachableSteps(plan));
  const languages = languagesAt(plan);
  for (const [stepId, step] of Object.entries(plan.steps)) {
    if (!(step.kind in stepKinds)) {
      findings.push({ stepId, grade: 'fault', code: 'unknownKind' });
      continue;
    }
    if (!reachable.has(stepId)) findings.push({ stepId, grade: 'doubt', code: 'unreachable' });
    findings.push(...checkStep(plan, stepId, step, view));
    findings.push(...missingLanguages(stepId, step, languages.get(stepId), view));
  }
  const circle = circleWithoutChoice(plan, reachable);
  if (circle.length > 0) findings.push({ stepId: circle[0]!, grade: 'fault', code: 'circle', steps: circle });
  return findings;
}

function checkStep(plan: CompiledPlan, stepId: string, step: CompiledStep, view: CheckView): PlanFinding[] {
  const kind = stepKinds[step.kind];
  const findings: PlanFinding[] = [];
  const said = configFault(kind.fields, step.config);
  if (said !== null) return [{ stepId, grade: 'fault', code: 'config', said }];
  const references = referencesOf(kind.fields, step.config);
  for (const { kind: of, id } of references)
    if (!view.has(of, id)) findings.push({ stepId, grade: 'fault', code: 'gone', kind: of, id });
  const exits = kind.exits(step.config as never);
  const names = new Set(exits.map(({ name }) => name));
  for (const [exit, next] of Object.entries(step.exits))
    if (!names.has(exit) || !(next in plan.steps))
      findings.push({ stepId, grade: 'fault', code: 'exit', exit });
  for (const { name, label, needed } of exits)
    if (needed === true && step.exits[name] === undefined)
      findings.push({ stepId, grade: 'fault', code: 'open', exit: name, label });
  if (step.kind === 'keys') findings.push(...checkKeys(stepId, step, view));
  if (step.kind === 'rules') findings.push(...checkRules(stepId, step.config.rules as readonly Rule[], view));
  for (const name of textsOf(kind.fields))
    findings.push(...checkText(stepId, String(step.config[name]), view));
  if (step.kind === 'hours') findings.push(...checkHours(stepId, String(step.config.hoursId), view));
  if (step.kind === 'extension') findings.push(...hidingExtensions(stepId, view));
  if (step.kind === 'plan') {
    const plans = circleOfPlans(plan.id, String(step.config.planId), view);
    if (plans.length > 0) findings.push({ stepId, grade: 'fault', code: 'planCircle', plans });
  }
  return findings;
}

/** Whoever chose a language hears what has none of it in the language it has. */
function missingLanguages(
  stepId: string,
  { kind, config }: CompiledStep,
  chosen: ReadonlySet<string> | undefined,
  view: CheckView,
): PlanFinding[] {
  if (chosen === undefined) return [];
  return referencesOf(stepKinds[kind].fields, config)
    .filter(({ kind: of, id }) => of === 'prompt' && view.has(of, id))
    .flatMap(({ id: promptId }) => {
      const spoken = view.languages(promptId);
      return [...chosen]
        .filter((language) => spoken.length > 0 && heardIn(language, spoken) === undefined)
        .map(
          (language) => ({ stepId, grade: 'doubt', code: 'languageMissing', promptId, language }) as const,
        );
    });
}

function checkKeys(stepId: string, step: CompiledStep, view: CheckView): PlanFinding[] {
  const { keys, promptId } = step.config as { keys: readonly KeyChoice[]; promptId: string };
  if (keys.length === 0) return [{ stepId, grade: 'fault', code: 'noKeys' }];
  const words = view.words(promptId);
  const languages = [view.languages(promptId)[0] ?? 'en', ...keys.flatMap(({ language }) => language ?? [])];
  const said = words === null ? null : keysSaid(words, languages);
  if (said === null) return [];
  return [
    ...said
      .filter((key) => !keys.some((each) => each.key === key))
      .map((key) => ({ stepId, grade: 'doubt' as const, code: 'keyNotThere' as const, key })),
    ...keys
      .filter(({ key }) => !said.includes(key))
      .map(({ key }) => ({ stepId, grade: 'doubt' as const, code: 'keyNotSaid' as const, key })),
  ];
}

/** From one plan to the next, back to where it began; empty when it does not come back. */
function circleOfPlans(self: string, first: string, view: CheckView): string[] {
  const seen = new Set<string>();
  function visit(id: string): string[] {
    if (id === self) return [id];
    if (id === '' || seen.has(id)) return [];
    seen.add(id);
    for (const next of view.leadsTo(id) ?? []) {
      const rest = visit(next);
      if (rest.length > 0) return [id, ...rest];
    }
    return [];
  }
  return visit(first);
}

/** Fields whose words are sent, so that others may be merged into them. */
const textsOf = (fields: Fields) =>
  Object.entries(fields).flatMap(([name, { type }]) =>
    type === 'text' && (name === 'words' || name === 'note') ? [name] : [],
  );

function checkText(stepId: string, words: string, view: CheckView): PlanFinding[] {
  const fields = view.recordFields();
  if (fields === null) return [];
  const said = mergeFault(words, [
    ...fields.map((field) => `record.${fieldKey(field)}`),
    'record.name',
    'call.number',
    ...mergeParts(words).flatMap((part) =>
      part.kind === 'field' && part.name.startsWith('found.') ? [part.name] : [],
    ),
  ]);
  return said === null ? [] : [{ stepId, grade: 'doubt', code: 'textField', said }];
}

function checkRules(stepId: string, rules: readonly Rule[], view: CheckView): PlanFinding[] {
  const fields = view.recordFields();
  return rules.flatMap((each, index): PlanFinding[] => {
    const at = { stepId, grade: 'doubt' as const, rule: index + 1 };
    const by = hiddenBy(rules, index);
    const asked = each.all.flatMap((condition) => (condition.about === 'record' ? [condition.field] : []));
    const unknown = asked.filter((field) => field !== '' && fields !== null && !fields.includes(field));
    return [
      ...(by === null ? [] : [{ ...at, code: 'ruleHidden' as const, by: rules.indexOf(by) + 1 }]),
      ...unknown.map((field) => ({ ...at, code: 'fieldNotThere' as const, field })),
    ];
  });
}

function checkHours(stepId: string, hoursId: string, view: CheckView): PlanFinding[] {
  const set = view.hours(hoursId);
  if (set === undefined) return [];
  const findings: PlanFinding[] = [];
  const never = whatNeverIs(set);
  if (never !== null) findings.push({ stepId, grade: 'doubt', code: never });
  const { zone } = set.clock;
  const elsewhere = view.numbers().find((e164) => {
    const zones = zonesOf(e164);
    return zones.length > 0 && zones.length < 4 && !zones.some((each) => sameClock(each, zone));
  });
  if (elsewhere !== undefined)
    findings.push({ stepId, grade: 'doubt', code: 'otherClock', zone, e164: elsewhere });
  return findings;
}

/** Open round the clock every day, or never: one of the ways is for nobody. */
function whatNeverIs({ weekly, days }: OpeningHours): 'neverClosed' | 'neverOpen' | null {
  const special = Object.values(days).map(({ ranges }) => ranges);
  const all = [...weekly, ...special];
  if (all.every((ranges) => ranges.length === 0)) return 'neverOpen';
  const isWhole = (ranges: readonly Range[]) => ranges.some(([from, to]) => from === 0 && to === minutesADay);
  return all.every(isWhole) ? 'neverClosed' : null;
}

/** One pair is enough to say it. */
function hidingExtensions(stepId: string, view: CheckView): PlanFinding[] {
  const pair = view.hidingExtensions();
  return pair === null ? [] : [{ stepId, grade: 'doubt', code: 'extensionHides', ...pair }];
}

/** The steps of a circle that is gone round without the caller choosing anything; empty when there is none. */
function circleWithoutChoice(plan: CompiledPlan, reachable: ReadonlySet<string>): string[] {
  const done = new Set<string>();
  const path: string[] = [];
  function visit(stepId: string): string[] {
    const at = path.indexOf(stepId);
    if (at >= 0) return path.slice(at);
    if (done.has(stepId)) return [];
    path.push(stepId);
    const step = plan.steps[stepId]!;
    const kind = step.kind in stepKinds ? stepKinds[step.kind] : null;
    for (const exit of kind?.exits(step.config as never) ?? []) {
      const next = step.exits[exit.name];
      if (exit.chosen === true || next === undefined || !(next in plan.steps)) continue;
      const circle = visit(next);
      if (circle.length > 0) return circle;
    }
    path.pop();
    done.add(stepId);
    return [];
  }
  for (const stepId of reachable) {
    const circle = visit(stepId);
    if (circle.length > 0) return circle;
  }
  return [];
}
