import { isLanguage } from '../../model/languages.ts';
import { endWhenOpen, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  languageField: {
    type: 'text',
    label: 'Field that holds the language',
    most: 80,
    otherwise: 'the caller’s own choice',
  },
} as const;

/** Whoever is known by a language hears prompts in it from here on, where they have it. */
export function speakAsKnown(context: StepContext, languageField: string): void {
  const language = context.facts().record?.fields?.[languageField]?.trim() ?? '';
  if (languageField !== '' && isLanguage(language)) context.speakIn(language);
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
  enter: (context, { languageField }) => {
    const known = context.facts().record;
    context.note({ kind: 'recordAsked', name: known?.name ?? null, by: 'number' });
    if (known === null) return { exit: 'notKnown' };
    speakAsKnown(context, languageField);
    return { exit: 'known' };
  },
  whenOpen: endWhenOpen,
  describe: ({ languageField = '' }) =>
    languageField === ''
      ? 'Ask whether the caller is known'
      : `Ask whether the caller is known, and speak as their ${languageField} says`,
};
