import { locale } from '../../kit/locale.ts';
import { kindWords } from '../../kit/finding.ts';
import { campaignFieldWords } from '../campaigns/words.ts';
import { fieldWords as placeFieldWords } from '../destinations/words.ts';
import { ruleWords } from '../dialling/words.ts';
import { numberWords } from '../numbers/words.ts';
import { personWords } from '../people/words.ts';
import { phoneWords } from '../phones/words.ts';
import { queueWords } from '../queues/words.ts';
import { sourceWords } from '../sources/words.ts';
import { trunkWords } from '../trunks/words.ts';

/** Kinds of items whose changes are on the trail, as one asks for them. */
export const trailKinds: Readonly<Record<string, string>> = {
  person: 'people',
  phone: 'phones',
  team: 'teams',
  skill: 'skills',
  queue: 'queues',
  plan: 'answering plans',
  hours: 'opening hours',
  prompt: 'prompts',
  number: 'numbers',
  trunk: 'trunks',
  rule: 'dialling rules',
  campaign: 'campaigns',
  source: 'call sources',
  voicemail: 'voicemail boxes',
  outside: 'outside numbers',
  ringGroup: 'ring groups',
  room: 'conference rooms',
  fax: 'fax boxes',
  connection: 'customer systems',
  blocked: 'blocked callers',
  code: 'service codes',
  scriptKey: 'API keys',
};

const fieldWords: Readonly<Record<string, Record<string, string>>> = {
  person: personWords,
  phone: phoneWords,
  queue: queueWords,
  number: numberWords,
  trunk: trunkWords,
  rule: ruleWords,
  campaign: campaignFieldWords,
  source: sourceWords,
  outside: placeFieldWords,
  room: placeFieldWords,
  fax: placeFieldWords,
};

/** What a field of an item of this kind is called. */
export function fieldWord(kind: string, field: string): string {
  const words = field.replace(/([A-Z])/g, ' $1').toLowerCase();
  return fieldWords[kind]?.[field] ?? words.charAt(0).toUpperCase() + words.slice(1);
}

export const kindWord = (kind: string) => kindWords[kind] ?? trailKinds[kind]?.replace(/s$/, '') ?? kind;

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
const longest = 160;

/** A value of a field in words: names instead of ids, lists in a row. */
export function valueWords(value: unknown, nameOf: (id: string) => string): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return value.toLocaleString(locale.value);
  if (typeof value === 'string') return uuid.test(value) ? nameOf(value) || '…' : shortened(value);
  if (Array.isArray(value))
    return value.length === 0 ? 'none' : shortened(value.map((each) => valueWords(each, nameOf)).join(', '));
  const parts = Object.entries(value as Record<string, unknown>)
    .filter(([, each]) => each !== null && each !== '')
    .map(([, each]) => valueWords(each, nameOf));
  return shortened(parts.join(' '));
}

const shortened = (text: string) => (text.length > longest ? `${text.slice(0, longest)}…` : text);
