import type { OpenState } from '../hours/opening-hours.ts';
import { languageName } from '../model/languages.ts';
import type { RecordFacts } from '../story/facts.ts';
import type { ItemKind } from './item-kind.ts';

/** What may be asked of a call before it goes on. Figures of a queue are as they stand at that moment. */
export type Condition =
  | { about: 'caller'; is: 'withheld' | 'known' | 'notKnown' }
  /** '+1360': how the caller's number begins. */
  | { about: 'callerNumber'; begins: string }
  /** The number of ours that was called; the source that led to the call. */
  | { about: 'number'; id: string }
  | { about: 'source'; id: string }
  /** What the caller chose (BCP 47). */
  | { about: 'language'; language: string }
  | { about: 'record'; field: string; is: RecordTest; value: string }
  /** What a bot found out in this call. */
  | { about: 'found'; field: string; is: RecordTest; value: string }
  | { about: 'queue'; id: string; figure: QueueFigure; is: 'atLeast' | 'atMost'; value: number }
  | { about: 'hours'; id: string; state: OpenState }
  /** Pressed somewhere before in this call. */
  | { about: 'key'; key: string };

export type RecordTest = 'same' | 'other' | 'contains' | 'atLeast' | 'atMost' | 'empty';
/** Callers waiting; seconds the first of them has; seconds the next would wait; agents free. */
export type QueueFigure = 'waiting' | 'longestWait' | 'expectedWait' | 'free';

export interface Rule {
  /** Of this step: its exit is named by it. */
  readonly id: string;
  /** Empty for none: it is called by its place. */
  readonly name: string;
  /** All must hold; with none it always does. */
  readonly all: readonly Condition[];
}

export const mostRules = 40;
export const mostConditions = 12;

/** How a queue stands, in seconds and heads; `expectedWait` is null where it cannot be known. */
export type QueueLoad = Readonly<Record<QueueFigure, number | null>>;

/** What is known of a call. Undefined where it cannot be known, as of calls long over. */
export interface RuleFacts {
  readonly from: string;
  readonly numberId: string | null;
  readonly sourceId: string | null;
  readonly language: string | null | undefined;
  readonly record: RecordFacts | null;
  readonly found: Readonly<Record<string, string>> | undefined;
  readonly keys: readonly string[] | undefined;
  queue(id: string): QueueLoad | null | undefined;
  hours(id: string): OpenState | null;
}

/** Whether it holds; undefined where that cannot be known. What is not there any more never holds. */
export function holds(condition: Condition, facts: RuleFacts): boolean | undefined {
  switch (condition.about) {
    case 'caller':
      if (condition.is === 'withheld') return !facts.from.startsWith('+');
      return (facts.record !== null) === (condition.is === 'known');
    case 'callerNumber':
      return facts.from.startsWith(condition.begins);
    case 'number':
      return facts.numberId === condition.id;
    case 'source':
      return facts.sourceId === condition.id;
    case 'language':
      return facts.language === undefined ? undefined : speaks(facts.language, condition.language);
    case 'record':
      return facts.record !== null && fieldHolds(facts.record.fields?.[condition.field] ?? '', condition);
    case 'found':
      return facts.found && fieldHolds(facts.found[condition.field] ?? '', condition);
    case 'queue': {
      const load = facts.queue(condition.id);
      if (load === undefined) return undefined;
      const figure = load?.[condition.figure] ?? null;
      if (figure === null) return false;
      return condition.is === 'atLeast' ? figure >= condition.value : figure <= condition.value;
    }
    case 'hours':
      return facts.hours(condition.id) === condition.state;
    case 'key':
      return facts.keys?.includes(condition.key);
  }
}

/** 'fr' is meant whatever the country; 'fr-CA' is meant as it stands. */
const speaks = (language: string | null, wanted: string) =>
  language === wanted || (language?.startsWith(`${wanted}-`) ?? false);

/** Numbers are compared as numbers; what is no number is neither at least nor at most anything. */
function fieldHolds(value: string, { is, value: wanted }: { is: RecordTest; value: string }): boolean {
  const [one, other] = [value.trim().toLowerCase(), wanted.trim().toLowerCase()];
  switch (is) {
    case 'same':
      return one === other;
    case 'other':
      return one !== other;
    case 'contains':
      return one.includes(other);
    case 'empty':
      return one === '';
    case 'atLeast':
      return isNumber(one) && isNumber(other) && Number(one) >= Number(other);
    case 'atMost':
      return isNumber(one) && isNumber(other) && Number(one) <= Number(other);
  }
}

export const isNumber = (text: string) => text.trim() !== '' && Number.isFinite(Number(text));

/** The first rule all of whose conditions hold; null for none. Undefined when that hangs on what cannot be known. */
export function ruleFor(rules: readonly Rule[], facts: RuleFacts): Rule | null | undefined {
  for (const rule of rules) {
    const answers = rule.all.map((condition) => holds(condition, facts));
    if (answers.includes(false)) continue;
    return answers.includes(undefined) ? undefined : rule;
  }
  return null;
}

/** What is not known of a call that is over. */
const unknownAfterwards: ReadonlySet<Condition['about']> = new Set(['language', 'key', 'queue', 'found']);
export const isKnownAfterwards = ({ all }: Rule) => !all.some(({ about }) => unknownAfterwards.has(about));

/** The earlier rule that takes every call a rule could; null when there is none, as far as can be told from the conditions. */
export function hiddenBy(rules: readonly Rule[], index: number): Rule | null {
  const { all } = rules[index]!;
  const isHidden = (earlier: Rule) =>
    earlier.all.every((wider) => all.some((narrower) => implies(narrower, wider)));
  return rules.slice(0, index).find(isHidden) ?? null;
}

/** Whenever the one holds, so does the other. */
function implies(one: Condition, other: Condition): boolean {
  if (one.about === 'callerNumber' && other.about === 'callerNumber')
    return one.begins.startsWith(other.begins);
  if (one.about === 'language' && other.about === 'language') return speaks(one.language, other.language);
  if (one.about === 'record' && other.about === 'caller' && other.is === 'known') return true;
  if (one.about === 'queue' && other.about === 'queue') {
    if (one.id !== other.id || one.figure !== other.figure || one.is !== other.is) return false;
    return one.is === 'atLeast' ? one.value >= other.value : one.value <= other.value;
  }
  if (
    (one.about === 'record' || one.about === 'found') &&
    other.about === one.about &&
    one.field === other.field
  ) {
    const isBound =
      (one.is === 'atLeast' || one.is === 'atMost') && isNumber(one.value) && isNumber(other.value);
    if (isBound && one.is === other.is)
      return one.is === 'atLeast'
        ? Number(one.value) >= Number(other.value)
        : Number(one.value) <= Number(other.value);
    return one.is === other.is && one.value.trim().toLowerCase() === other.value.trim().toLowerCase();
  }
  return sameCondition(one, other);
}

function sameCondition(one: Condition, other: Condition): boolean {
  const keys = new Set([...Object.keys(one), ...Object.keys(other)]);
  return [...keys].every(
    (key) =>
      (one as unknown as Record<string, unknown>)[key] === (other as unknown as Record<string, unknown>)[key],
  );
}

/** The items a condition names. */
export function referenceOf(condition: Condition): { kind: ItemKind; id: string } | null {
  switch (condition.about) {
    case 'number':
    case 'source':
    case 'queue':
    case 'hours':
      return { kind: condition.about, id: condition.id };
    default:
      return null;
  }
}

const stateWords: Record<OpenState, string> = {
  open: 'are open',
  closed: 'are closed',
  holiday: 'have a holiday',
  storm: 'are closed by storm',
};
const testWords: Record<RecordTest, string> = {
  ...{ same: 'is', other: 'is not', contains: 'contains', atLeast: 'is at least', atMost: 'is at most' },
  empty: 'is empty',
};
const figureWords: Record<QueueFigure, (value: number, bound: string) => string> = {
  waiting: (value, bound) => `${bound} ${value} wait in`,
  longestWait: (value, bound) => `somebody has waited ${bound} ${value} s in`,
  expectedWait: (value, bound) => `one would wait ${bound} ${value} s in`,
  free: (value, bound) => `${bound} ${value} agents are free in`,
};

/** A condition in words that go on behind “when”. */
export function conditionWords(condition: Condition, nameOf: (kind: ItemKind, id: string) => string): string {
  switch (condition.about) {
    case 'caller':
      if (condition.is === 'withheld') return 'the number is withheld';
      return condition.is === 'known' ? 'the caller is known' : 'the caller is not known';
    case 'callerNumber':
      return `the caller’s number begins with ${condition.begins}`;
    case 'number':
      return `${nameOf('number', condition.id)} was called`;
    case 'source':
      return `they come by ${nameOf('source', condition.id)}`;
    case 'language':
      return `they chose ${languageName(condition.language)}`;
    case 'record':
    case 'found': {
      const whose = condition.about === 'record' ? 'of the record' : 'as the bot found';
      const field = `${condition.field} ${whose} ${testWords[condition.is]}`;
      return condition.is === 'empty' ? field : `${field} ${condition.value}`;
    }
    case 'queue':
      return `${figureWords[condition.figure](
        condition.value,
        condition.is === 'atLeast' ? 'at least' : 'at most',
      )} ${nameOf('queue', condition.id)}`;
    case 'hours':
      return `the hours of ${nameOf('hours', condition.id)} ${stateWords[condition.state]}`;
    case 'key':
      return `they pressed ${condition.key}`;
  }
}

/** 'the number is withheld and at least 5 wait in Bookings'; 'always' for no condition. */
export function ruleWords(
  { all }: Pick<Rule, 'all'>,
  nameOf: (kind: ItemKind, id: string) => string,
): string {
  return all.map((condition) => conditionWords(condition, nameOf)).join(' and ') || 'always';
}

/** What is wrong with rules, in a sentence; null when nothing is. In a draft, what they name may still be to be chosen. */
export function rulesFault(label: string, value: unknown, isDraft: boolean): string | null {
  if (!Array.isArray(value) || value.length > mostRules) return `${label}: at most ${mostRules}`;
  const seen = new Set<unknown>();
  for (const [index, each] of (value as unknown[]).entries()) {
    const place = `Rule ${index + 1}`;
    if (typeof each !== 'object' || each === null) return `${label}: each has a name and conditions`;
    const { id, name, all, ...more } = each as Record<string, unknown>;
    if (
      typeof id !== 'string' ||
      !/^[a-z0-9]{1,12}$/.test(id) ||
      seen.has(id) ||
      Object.keys(more).length > 0
    )
      return `${label}: each has a name of its own`;
    seen.add(id);
    if (typeof name !== 'string' || name.length > 60) return `${place}: its name has at most 60 characters`;
    if (!Array.isArray(all) || all.length > mostConditions)
      return `${place}: at most ${mostConditions} conditions`;
    for (const condition of all as unknown[]) {
      const fault = conditionFault(condition, isDraft);
      if (fault !== null) return `${place}: ${fault}`;
    }
  }
  return null;
}

const fieldShape = {
  field: isText(80),
  is: oneOf('same', 'other', 'contains', 'atLeast', 'atMost', 'empty'),
  value: isText(200),
};
/** The fields of each kind of condition, and what may stand in them. */
const shapes: Record<Condition['about'], Readonly<Record<string, (value: unknown) => boolean>>> = {
  caller: { is: oneOf('withheld', 'known', 'notKnown') },
  callerNumber: { begins: isText(20) },
  number: { id: isText(80) },
  source: { id: isText(80) },
  language: { language: isText(20) },
  ...{ record: fieldShape, found: fieldShape },
  queue: {
    id: isText(80),
    figure: oneOf('waiting', 'longestWait', 'expectedWait', 'free'),
    is: oneOf('atLeast', 'atMost'),
    value: (value) => Number.isInteger(value) && (value as number) >= 0 && (value as number) <= 86_400,
  },
  hours: { id: isText(80), state: oneOf('open', 'closed', 'holiday', 'storm') },
  key: { key: (value) => typeof value === 'string' && /^[\d*#]$/.test(value) },
};

function oneOf(...values: readonly string[]): (value: unknown) => boolean {
  return (value) => values.includes(value as string);
}
function isText(most: number): (value: unknown) => boolean {
  return (value) => typeof value === 'string' && value.length <= most;
}

function conditionFault(value: unknown, isDraft: boolean): string | null {
  if (typeof value !== 'object' || value === null) return 'a condition says what it is about';
  const { about, ...rest } = value as Record<string, unknown>;
  if (typeof about !== 'string' || !(about in shapes)) return `nothing is known about ${String(about)}`;
  const shape = shapes[about as Condition['about']];
  const odd = Object.keys(rest).find((key) => !(key in shape));
  if (odd !== undefined) return `${odd} means nothing here`;
  const wrong = Object.entries(shape).find(([key, fits]) => !fits(rest[key]));
  if (wrong !== undefined) return `${wrong[0]} cannot be ${JSON.stringify(rest[wrong[0]] ?? null)}`;
  return isDraft ? null : unfinished(value as Condition);
}

/** What must be chosen still before callers meet it. */
function unfinished(condition: Condition): string | null {
  if ('id' in condition && condition.id === '')
    return `choose the ${condition.about === 'hours' ? 'opening hours' : condition.about}`;
  if (condition.about === 'callerNumber' && !/^\+[1-9]\d*$/.test(condition.begins))
    return 'a number begins with a plus and the country code, as +1360';
  if (condition.about === 'language' && condition.language === '') return 'choose the language';
  if (condition.about !== 'record' && condition.about !== 'found') return null;
  if (condition.field === '')
    return condition.about === 'record' ? 'choose the field of the record' : 'name what the bot finds out';
  if ((condition.is === 'atLeast' || condition.is === 'atMost') && !isNumber(condition.value))
    return `${condition.field} is compared with a number, not “${condition.value}”`;
  return condition.is !== 'empty' && condition.value.trim() === ''
    ? `what ${condition.field} is compared with is missing`
    : null;
}
