import { isLanguage } from '../model/languages.ts';
import { mostTargets, ringSeconds, ringTargetKinds } from '../model/ring.ts';
import { answersFault } from './phrases.ts';
import { rulesFault } from './rules.ts';
import { type Config, dialKeys, type Field, type Fields } from './fields.ts';

/**
 * What is wrong with a configuration, in a sentence; null when nothing is. In a draft, items may still be to be chosen.
 * Read by browser and server alike, so it stands without a validator.
 */
export function configFault(fields: Fields, config: Config, isDraft = false): string | null {
  for (const [name, field] of Object.entries(fields)) {
    const fault = fieldFault(field, config[name], isDraft);
    if (fault !== null) return fault;
  }
  const unknown = Object.keys(config).find((name) => !(name in fields));
  return unknown === undefined ? null : `It has ${unknown}, which this kind of step does not know`;
}

function fieldFault(field: Field, value: unknown, isDraft: boolean): string | null {
  const { label } = field;
  switch (field.type) {
    case 'item':
      if (typeof value !== 'string' || value.length > 80) return `${label} is missing`;
      return value === '' && !isDraft ? `Choose ${withArticle(label)}` : null;
    case 'itemOrNone':
      return typeof value === 'string' && value.length <= 80 ? null : `${label} is missing`;
    case 'whole':
      return isWhole(value, field) ? null : `${label}: a whole number from ${field.least} to ${field.most}`;
    case 'wholeOrNone':
      return value === null || isWhole(value, field)
        ? null
        : `${label}: from ${field.least} to ${field.most}, or ${field.otherwise}`;
    case 'key':
      return value === null || isKey(value) ? null : `${label} is 0 to 9, * or #, or none`;
    case 'keys':
      return keysFault(label, value);
    case 'choice':
      return field.of.some((each) => each.value === value)
        ? null
        : `${label}: ${field.of.map(({ title }) => title).join(' or ')}`;
    case 'text':
      return typeof value === 'string' && value.length <= field.most
        ? null
        : `${label} has at most ${field.most} characters`;
    case 'answers':
      return answersFault(label, value, isDraft);
    case 'rules':
      return rulesFault(label, value, isDraft);
    case 'ringTargets':
      return targetsFault(label, value, isDraft);
  }
}

const isKey = (value: unknown) => (dialKeys as readonly unknown[]).includes(value);

function isWhole(value: unknown, { least, most }: { least: number; most: number }): boolean {
  return Number.isInteger(value) && (value as number) >= least && (value as number) <= most;
}

function keysFault(label: string, value: unknown): string | null {
  if (!Array.isArray(value)) return `${label} are missing`;
  const seen = new Set<unknown>();
  for (const each of value as unknown[]) {
    if (typeof each !== 'object' || each === null) return `${label}: each is a key and what it is for`;
    const { key, label: words, language = null, ...more } = each as Record<string, unknown>;
    if (!isKey(key) || Object.keys(more).length > 0) return `${label}: a key is 0 to 9, * or #`;
    if (typeof words !== 'string' || words.length > 60)
      return `${label}: what key ${String(key)} is for has at most 60 characters`;
    if (language !== null && !isLanguage(language))
      return `${label}: a language looks like en or fr-CA, not ${String(language)}`;
    if (seen.has(key)) return `${label}: key ${String(key)} is there twice`;
    seen.add(key);
  }
  return null;
}

function targetsFault(label: string, value: unknown, isDraft: boolean): string | null {
  if (!Array.isArray(value) || value.length > mostTargets) return `${label}: at most ${mostTargets}`;
  if (value.length === 0 && !isDraft) return 'Choose who is rung';
  for (const each of value as unknown[]) {
    if (typeof each !== 'object' || each === null) return `${label}: each is somebody and some seconds`;
    const { kind, id, seconds, ...more } = each as { kind?: unknown; id?: unknown; seconds?: unknown };
    if (!(ringTargetKinds as readonly unknown[]).includes(kind) || Object.keys(more).length > 0)
      return `${label}: people, teams and outside numbers`;
    if (typeof id !== 'string' || id === '' || id.length > 80) return `${label}: one is not chosen yet`;
    if (!isWhole(seconds, ringSeconds))
      return `${label}: each rings for ${ringSeconds.least} to ${ringSeconds.most} seconds`;
  }
  return null;
}

/** 'a prompt', 'an outside number', 'the opening hours'. */
function withArticle(label: string): string {
  const plain = label.toLowerCase();
  if (plain.endsWith('s')) return `the ${plain}`;
  return `${/^[aeio]/.test(plain) ? 'an' : 'a'} ${plain}`;
}
