import type { Knex } from 'knex';
import type { PromptDraft, PromptView } from '@night-bell/core/contracts/prompts';
import { languageName } from '@night-bell/core/model/languages';
import { Problem } from '../../http/problems.ts';
import { checkInUse } from '../../spine/items.ts';

interface Spoken {
  id: string;
  name: string;
  language: string;
  translationOf: string | null;
}

const spoken = (trx: Knex) =>
  trx('prompt as p')
    .join('item as i', 'i.id', 'p.id')
    .whereNull('i.retired_at')
    .orderBy('p.id')
    .select<Spoken[]>('p.id', 'i.name', 'p.language', 'p.translation_of as translationOf');

/** Of one prompt there is one in each language, and all of them stand behind the one that plans name. */
export async function checkTranslation(
  trx: Knex,
  { language, translationOf }: PromptDraft,
  id: string | null,
): Promise<void> {
  await checkInUse(trx, translationOf, 'prompt', '/translationOf');
  const own = id === null ? [] : await spoken(trx).where('p.translation_of', id);
  if (translationOf === null) return refuseSameLanguage(own, language);
  if (own.length > 0 || translationOf === id)
    throw Problem.field('/translationOf', 'Others are translations of this one: it stands for itself.');
  const family = await spoken(trx).whereRaw('? in (p.id, p.translation_of)', [translationOf]);
  const original = family.find((each) => each.id === translationOf)!;
  if (original.translationOf !== null)
    throw Problem.field(
      '/translationOf',
      `${original.name} is a translation itself. Choose what it is one of.`,
    );
  refuseSameLanguage(
    family.filter((each) => each.id !== id),
    language,
  );
}

function refuseSameLanguage(others: readonly Spoken[], language: string): void {
  const same = others.find((each) => each.language === language);
  if (same === undefined) return;
  const said = `${same.name} says it in ${languageName(language)} already. Choose another language.`;
  throw Problem.field('/language', said);
}

/** The languages that these prompts are also in, beside their own. */
export async function alsoIn(trx: Knex, ids: readonly string[]): Promise<Map<string, string[]>> {
  const rows = await spoken(trx).whereIn('p.translation_of', ids);
  const found = new Map<string, string[]>();
  for (const { translationOf, language } of rows)
    found.set(translationOf!, [...(found.get(translationOf!) ?? []), language]);
  return found;
}

/** What the exchange knows of each prompt's other languages: those that callers may hear, by language. */
export function translationsIn(prompts: readonly PromptView[]): Map<string, Record<string, string>> {
  const found = new Map<string, Record<string, string>>();
  for (const { id, language, translationOf, publishedWords } of prompts)
    if (translationOf !== null && publishedWords !== null)
      found.set(translationOf, { ...found.get(translationOf), [language]: id });
  return found;
}
