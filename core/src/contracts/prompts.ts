import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, instant, name, nullable, ruled, text, whole } from './parts.ts';

export const promptKinds = [
  ...(['greeting', 'menu', 'announcement', 'closed', 'unanswered', 'hold', 'waiting'] as const),
  ...(['ringback', 'voicemailGreeting', 'leaveBehind'] as const),
] as const;
export type PromptKind = (typeof promptKinds)[number];

const language = ruled(text(12), (value) =>
  /^[a-z]{2,3}(-[A-Z]{2})?$/.test(value) ? null : 'A language looks like en or fr-CA.',
);

/** What callers hear: what is written (`words`) is heard once it is published. */
export const prompts = itemContract(
  { area: 'Prompts', path: '/api/prompts', one: 'a prompt', many: 'prompts' },
  { name, kind: choice(...promptKinds), language, words: text(5_000) },
  {
    /** What callers hear now; null before the first publishing. */
    publishedWords: nullable(text(5_000)),
    publishedAt: nullable(instant),
    /** How long what callers hear takes. */
    seconds: whole(0, 10_000),
    uses: whole(0, 1_000_000),
  },
);

export type PromptsContract = typeof prompts;
export type PromptDraft = DraftOf<PromptsContract>;
export type PromptView = ViewOf<PromptsContract>;
