import type {
  PromptDraft,
  PromptKind,
  PromptsContract,
  PromptView,
} from '@night-bell/core/contracts/prompts';
import { itemApi } from '../../api/items.ts';
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
  title: 'Prompts',
  one: 'prompt',
  second: 'What callers hear',
  fresh: () => ({ name: '', kind: 'greeting', language: 'en', words: '' }),
  draftOf: ({ name, kind, language, words }) => ({ name, kind, language, words }),
  words: { name: 'Name', kind: 'Kind', language: 'Language', words: 'Words' },
  show: (field, value) => (field === 'kind' ? promptKindWords[value as PromptKind] : showPlain(value)),
  unused: 'No plan plays it yet.',
};

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
