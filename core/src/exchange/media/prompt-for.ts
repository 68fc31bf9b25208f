import { heardIn } from '../../model/languages.ts';
import type { PromptItem } from '../../model/configuration.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';

/** A prompt as this caller hears it: in the language they chose, where it has that; else as it is. */
export function promptFor(state: Readonly<State>, call: Readonly<Call>, id: string): PromptItem | undefined {
  const prompt = state.prompts.get(id);
  if (call.language === null || prompt?.translations === undefined) return prompt;
  const language = heardIn(call.language, Object.keys(prompt.translations));
  return language === undefined ? prompt : (state.prompts.get(prompt.translations[language]!) ?? prompt);
}
