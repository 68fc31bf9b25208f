import type { Configuration, ConfigurationChanges } from './configuration.ts';

const collections = [
  'people',
  'phones',
  'queues',
  'numbers',
  'voicemailBoxes',
  'trunks',
  'campaigns',
  'outsideNumbers',
  'rooms',
  'ringGroups',
  'faxBoxes',
  'codes',
  'hours',
  'prompts',
  'regions',
  'bots',
  'plans',
] as const;

/** Those that are told whole when anything in them changed. */
const lists = ['rules', 'blocked'] as const;

/** The JSON of items that were compared before: they never change, and most stay from one change to the next. */
const texts = new WeakMap<object, string>();

function textOf(item: object): string {
  let text = texts.get(item);
  if (text === undefined) {
    text = JSON.stringify(item);
    texts.set(item, text);
  }
  return text;
}

/**
 * What turns `before` into `after`, or null when nothing changed. Items are compared by their JSON, so
 * compile both with the same key order.
 */
export function configurationDifference(
  before: Configuration,
  after: Configuration,
): ConfigurationChanges | null {
  const changes: ConfigurationChanges = {};
  const gone: string[] = [];
  let changed = false;
  if (JSON.stringify(before.settings) !== JSON.stringify(after.settings)) {
    changes.settings = after.settings;
    changed = true;
  }
  for (const list of lists) {
    if (JSON.stringify(before[list]) === JSON.stringify(after[list])) continue;
    Object.assign(changes, { [list]: after[list] });
    changed = true;
  }
  for (const collection of collections) {
    const known = new Map<string, string>(before[collection].map((item) => [item.id, textOf(item)]));
    const fresh = after[collection].filter((item) => known.get(item.id) !== JSON.stringify(item));
    const kept = new Set<string>(after[collection].map((item) => item.id));
    for (const id of known.keys()) if (!kept.has(id)) gone.push(id);
    if (fresh.length > 0) {
      Object.assign(changes, { [collection]: fresh });
      changed = true;
    }
  }
  if (gone.length > 0) changes.gone = gone;
  return changed || gone.length > 0 ? changes : null;
}
