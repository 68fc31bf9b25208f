import { languageField } from '../asking.ts';
import { isLanguage } from '../../model/languages.ts';
import { endWhenOpen, type StepContext, type StepKind } from '../step-kind.ts';

const fields = { languageField } as const;

/** Whoever is known by a language hears prompts in it from here on, where they have it. */
export function speakAsKnown(context: StepContext, field: string): void {
  const language = context.facts().record?.fields?.[field]?.trim() ?? '';
  if (field !== '' && isLanguage(language)) context.speakIn(language);
}

/** Whether the customer records know the caller by their number. */
export const record: StepKind<typeof fields, never> = {
  kind: 'record',
  word: 'Record',
  fields,
  exits: () => [
    { name: 'known', label: 'known', needed: true },
    { name: 'notKnown', label: 'not known', needed: true },
  ],
  main: 'known',
  fresh: { languageField: '' },
  destination: () => null,
  enter: (context, config) => {
    const known = context.facts().record;
    context.note({ kind: 'recordAsked', name: known?.name ?? null, by: 'number' });
    if (known === null) return { exit: 'notKnown' };
    speakAsKnown(context, config.languageField);
    return { exit: 'known' };
  },
  whenOpen: endWhenOpen,
  describe: ({ languageField: field = '' }) =>
    field === ''
      ? 'Ask whether the caller is known'
      : `Ask whether the caller is known, and speak as their ${field} says`,
};
