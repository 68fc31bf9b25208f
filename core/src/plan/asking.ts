import type { StepContext } from './step-kind.ts';

/** What several kinds of steps do alike that ask the caller something. */

/** Digits that may be typed, and the key that ends them. */
export const digitsAndEnd = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '#'];

/** The question is heard for the first time. */
export function noteQuestion(context: StepContext, promptId: string): void {
  const prompt = context.prompt(promptId);
  if (prompt === undefined) return;
  context.note({ kind: 'said', promptId: prompt.id, name: prompt.name, seconds: prompt.seconds });
}

/** A field of the record that says which language its holder hears. */
export const languageField = {
  type: 'text',
  label: 'Field that holds the language',
  most: 80,
  otherwise: 'the caller’s own choice',
} as const;
