import type { PromptDraft, PromptsContract, PromptView } from '@night-bell/core/contracts/prompts';
import type { PromptKind } from '@night-bell/core/sound/kinds';
import { itemApi, send } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const promptKindWords: Record<PromptKind, string> = {
  greeting: 'Greeting',
  menu: 'Menu',
  announcement: 'Announcement',
  closed: 'Closed',
  unanswered: 'Unanswered',
  hold: 'Hold',
  waiting: 'Waiting',
  ringback: 'Ringback',
  voicemailGreeting: 'Voicemail greeting',
  leaveBehind: 'Leave-behind',
};

export const promptApi = itemApi<PromptsContract>('prompt', '/api/prompts');

export const promptArea: ItemArea<PromptDraft, PromptView> = {
  api: promptApi,
  page: '/prompts',
  savedAs: 'prompts',
  title: 'Prompts',
  one: 'prompt',
  second: 'What callers hear',
  fresh: () => ({
    name: '',
    kind: 'greeting',
    language: 'en',
    words: '',
    personId: null,
    translationOf: null,
  }),
  draftOf: ({ name, kind, language, words, personId, translationOf }) => ({
    ...{ name, kind, language, words, personId, translationOf },
  }),
  words: {
    name: 'Name',
    kind: 'Kind',
    language: 'Language',
    words: 'Words',
    personId: 'Belongs to',
    translationOf: 'Translation of',
  },
  show: (field, value) => (field === 'kind' ? promptKindWords[value as PromptKind] : showPlain(value)),
  unused: 'No plan plays it yet.',
};

/** The same prompt in other languages. */
export const translationsOf = (prompts: readonly PromptView[], id: string): PromptView[] =>
  prompts.filter((each) => each.translationOf === id && !each.retired);

/** How a sound came about. */
export const originWords = {
  spoken: 'Spoken',
  recorded: 'Recorded here',
  brought: 'Brought as a file',
} as const;

/** How it stands: heard as it is written, changed since, or never heard yet. */
export function promptState({
  words,
  publishedWords,
  sound,
  heard,
}: PromptView): 'published' | 'changed' | 'draft' {
  if (publishedWords === null) return 'draft';
  return words === publishedWords && (sound === null || sound.id === heard?.id) ? 'published' : 'changed';
}

/** Has its words spoken; callers hear that once it is published. */
export const speakPrompt = (id: string) => send<PromptView>('POST', `/api/prompts/${id}/speak`, { body: {} });
