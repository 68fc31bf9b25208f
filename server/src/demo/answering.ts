import { DateTime } from 'luxon';
import type { Knex } from 'knex';
import { blocked } from '@night-bell/core/contracts/blocked';
import { bots } from '@night-bell/core/contracts/bots';
import { codes } from '@night-bell/core/contracts/codes';
import { objectSchema } from '@night-bell/core/contracts/item';
import { openingHours } from '@night-bell/core/contracts/opening-hours';
import { plans } from '@night-bell/core/contracts/plans';
import { voicemailBoxes } from '@night-bell/core/contracts/voicemail-boxes';
import { prompts } from '@night-bell/core/contracts/prompts';
import type { Range } from '@night-bell/core/hours/opening-hours';
import { minuteOf } from '@night-bell/core/hours/ranges';
import type { StepKindName } from '@night-bell/core/model/plan';
import { referenceOf, type Rule } from '@night-bell/core/plan/rules';
import { typedRegions } from '@night-bell/core/plan/regions';
import { stepKinds } from '@night-bell/core/plan/registry';
import { botItem, setBotKey } from '../areas/bots/store.ts';
import { blockedItem } from '../areas/blocked/store.ts';
import { codeItem, setCodePin } from '../areas/codes/store.ts';
import { hoursItem } from '../areas/hours/store.ts';
import { planItem, publishPlan } from '../areas/plans/store.ts';
import { speak } from '../areas/prompts/sounds.ts';
import { promptItem, publishPrompt } from '../areas/prompts/store.ts';
import { putRows } from '../areas/regions/rows.queries.ts';
import { regionItem, rowsChanged } from '../areas/regions/store.ts';
import { voicemailItem } from '../areas/voicemail/store.ts';
import type { Database } from '../database/connection.ts';
import type { SecretBox } from '../security/secret-box.ts';
import type { Sounds } from '../sound/sounds.ts';
import { type Author, authorOf } from '../spine/items.ts';
import { checked, destinationCalled, itemCalled } from './by-name.ts';

/** Opening hours, prompts and answering plans, as the demo writes them: items by their names, years left open. */
export interface DemoAnswering {
  hours: {
    name: string;
    zone: string;
    week: string[];
    days: [monthDay: string, name: string, ranges: string][];
  }[];
  prompts: {
    name: string;
    kind: string;
    words: string;
    unpublished?: true;
    of?: string;
    language?: string;
    instead?: string;
  }[];
  boxes: {
    /** Of a queue or person by name, or a shared one by its own. */
    of?: string;
    name?: string;
    extension?: string;
    hours?: string;
    open?: string;
    closed?: string;
    colleague?: string;
    listeners?: string[];
    mailTo?: string[];
  }[];
  blocked: { name: string; kind: string; digits: string; why: string; forDays?: number }[];
  codes: {
    name: string;
    digits: string;
    does?: string;
    closes?: string[];
    forHours?: number;
    pin?: string;
  }[];
  /** What callers say in voicemail, one after the other. */
  messages: string[];
  /** Tables of regions: what is written, and where its callers go. */
  regions: { name: string; rows: [region: string, to: string][] }[];
  /** Where they are, is for whoever starts the demo to say. */
  bots: { name: string }[];
  plans: { name: string; start: string; draft?: true; steps: Record<string, DemoStep> }[];
}

interface DemoStep {
  kind: StepKindName;
  to: Record<string, string>;
  keys?: [key: string, label: string, language?: string][];
  [field: string]: unknown;
}

/** A service outside that the demo asks, as whoever starts it has it running. */
export interface Door {
  address: string;
  key: string;
}

export async function loadAnswering(
  trx: Knex.Transaction,
  demo: DemoAnswering,
  seal: SecretBox,
  bot: Door,
): Promise<void> {
  const author = authorOf(null);
  for (const { name } of demo.bots) {
    const draft = checked(objectSchema(bots.draft).validate({ name, address: `${bot.address}/` }));
    await setBotKey(trx, seal, await botItem.create(trx, draft, author), bot.key);
  }
  for (const { name, zone, week, days } of demo.hours) {
    const draft = {
      ...{ name, zone, weekly: week.map(rangesOf) },
      days: days.map(([monthDay, called, ranges]) => ({
        ...{ date: comingDate(monthDay, zone), name: called, holiday: true, ranges: rangesOf(ranges) },
      })),
    };
    await hoursItem.create(trx, checked(objectSchema(openingHours.draft).validate(draft)), author);
  }
  for (const { name, kind, words, unpublished, of, language = 'en', instead } of demo.prompts) {
    const personId = of === undefined ? null : await itemCalled(trx, ['person'], of);
    const translationOf = instead === undefined ? null : await itemCalled(trx, ['prompt'], instead);
    const draft = { name, kind, words, language, personId, translationOf };
    const id = await promptItem.create(trx, checked(objectSchema(prompts.draft).validate(draft)), author);
    if (unpublished !== true) await publishPrompt(trx, id, 1, author);
  }
  for (const box of demo.boxes) await loadBox(trx, box, author);
  for (const { name, digits, does = 'storm', closes = [], forHours = 1, pin } of demo.codes) {
    const hoursIds = await Promise.all(closes.map((each) => itemCalled(trx, ['hours'], each)));
    const draft = { name, digits, does, hoursIds, forHours, teamIds: [] };
    const id = await codeItem.create(trx, checked(objectSchema(codes.draft).validate(draft)), author);
    if (pin !== undefined) await setCodePin(trx, id, pin, author);
  }
  for (const { forDays, ...entry } of demo.blocked) {
    const until = forDays === undefined ? null : DateTime.now().plus({ days: forDays }).toMillis();
    const draft = checked(objectSchema(blocked.draft).validate({ ...entry, until }));
    await blockedItem.create(trx, draft, author);
  }
  for (const { name } of demo.regions) await regionItem.create(trx, { name }, author);
  for (const { name, start, draft, steps } of demo.plans) {
    const named: Record<string, object> = {};
    for (const [stepId, { kind, to, ...config }] of Object.entries(steps))
      named[stepId] = { kind, config: await configOf(trx, kind, config), exits: to };
    const document = { start, steps: named };
    const id = await planItem.create(
      trx,
      checked(objectSchema(plans.draft).validate({ name, document })),
      author,
    );
    if (draft !== true) await publishPlan(trx, id, 1, author);
  }
  // Rows lead to plans, and plans ask tables.
  for (const { name, rows } of demo.regions) await loadRegions(trx, name, rows, author);
}

async function loadRegions(
  trx: Knex.Transaction,
  table: string,
  rows: [region: string, to: string][],
  author: Author,
): Promise<void> {
  const id = await itemCalled(trx, ['region'], table);
  const counts = { added: 0, changed: 0, takenOut: 0 };
  for (const [written, called] of rows) {
    const to = await destinationCalled(trx, called);
    const read = typedRegions(written);
    if (read.faults[0] !== undefined)
      throw new Error(`the demo's region ${written}: ${read.faults[0].detail}`);
    const put = await putRows(
      trx,
      id,
      read.rows.map(({ prefix, place }) => ({ prefix, place, to })),
    );
    counts.added += put.added;
  }
  await rowsChanged(trx, id, counts, author);
}

/** A box of an owner gets its greetings and rights; a shared one is made. */
async function loadBox(
  trx: Knex.Transaction,
  box: DemoAnswering['boxes'][number],
  author: Author,
): Promise<void> {
  const { of, name, extension = null, hours, open, closed, colleague, listeners = [], mailTo = [] } = box;
  const prompt = (called: string | undefined) =>
    called === undefined ? Promise.resolve(null) : itemCalled(trx, ['prompt'], called);
  const set = {
    hoursId: hours === undefined ? null : await itemCalled(trx, ['hours'], hours),
    greetings: {
      open: { outside: await prompt(open), inside: await prompt(colleague) },
      closed: { outside: await prompt(closed), inside: null },
    },
    listeners: await Promise.all(listeners.map((each) => itemCalled(trx, ['person', 'team'], each))),
    mailTo,
  };
  const schema = objectSchema(voicemailBoxes.draft);
  if (of === undefined) {
    const fresh = { maxMessageSeconds: 180, mostMessages: 100, keepDays: 30, whenFull: null };
    await voicemailItem.create(trx, checked(schema.validate({ name, extension, ...fresh, ...set })), author);
    return;
  }
  const owner = await itemCalled(trx, ['queue', 'ringGroup', 'person'], of);
  const id = await trx('voicemail_box').where({ owner_id: owner }).first<{ id: string }>('id');
  const present = await voicemailItem.get(trx, id.id);
  const draft = { ...voicemailItem.snapshot(present), ...set, extension };
  await voicemailItem.change(trx, id.id, present.version, checked(schema.validate(draft)), author);
}

/** What the demo's callers hear is spoken, where there is a voice; without one they hear pauses. */
export async function speakPrompts(database: Database, sounds: Sounds): Promise<void> {
  const author = authorOf(null);
  for (const { id, publishedWords } of await promptItem.list(database)) {
    try {
      await speak(database, sounds, id, author);
    } catch {
      return;
    }
    const { version } = await promptItem.get(database, id);
    if (publishedWords !== null) await database.transaction((trx) => publishPrompt(trx, id, version, author));
  }
}

/** The fields of a kind, with items found by their names; what is left out is as it comes from the shelf. */
async function configOf(trx: Knex, kind: StepKindName, given: Record<string, unknown>): Promise<object> {
  const config: Record<string, unknown> = { ...stepKinds[kind].fresh };
  for (const [name, field] of Object.entries(stepKinds[kind].fields)) {
    const value = given[name];
    if (value === undefined || value === null) continue;
    if (field.type === 'item' || field.type === 'itemOrNone')
      config[name] = await itemCalled(trx, [field.of], String(value));
    else if (field.type === 'keys')
      config[name] = (value as NonNullable<DemoStep['keys']>).map(([key, label, language]) => ({
        ...{ key, label, ...(language === undefined ? {} : { language }) },
      }));
    else if (field.type === 'rules') config[name] = await rulesOf(trx, value as Rule[]);
    else config[name] = value;
  }
  return config;
}

/** What conditions name is written by name. */
function rulesOf(trx: Knex, rules: readonly Rule[]): Promise<Rule[]> {
  const named = async (condition: Rule['all'][number]) => {
    const reference = referenceOf(condition);
    if (reference === null) return condition;
    return { ...condition, id: await itemCalled(trx, [reference.kind], reference.id) } as typeof condition;
  };
  return Promise.all(rules.map(async (rule) => ({ ...rule, all: await Promise.all(rule.all.map(named)) })));
}

/** '09:00-12:00 13:00-17:00'; nothing for closed. */
function rangesOf(text: string): Range[] {
  return text
    .split(' ')
    .filter(Boolean)
    .map((range) => {
      const [from = '', to = ''] = range.split('-');
      return [minuteOf(from)!, minuteOf(to)!] as const;
    });
}

/** The date of that day within the year around now: two months back at the earliest. */
function comingDate(monthDay: string, zone: string): string {
  const since = DateTime.now().setZone(zone).minus({ months: 2 });
  const [month = 1, day = 1] = monthDay.split('-').map(Number);
  const thisYear = DateTime.fromObject({ year: since.year, month, day }, { zone });
  return (thisYear < since ? thisYear.plus({ years: 1 }) : thisYear).toISODate()!;
}
