import type { BotDraft, BotsContract, BotView } from '@night-bell/core/contracts/bots';
import type { BotFault } from '@night-bell/core/model/bots';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const botApi = itemApi<BotsContract>('bot', '/api/bots');

export const botArea: ItemArea<BotDraft, BotView> = {
  api: botApi,
  page: '/bots',
  savedAs: 'bots',
  title: 'Bots',
  one: 'bot',
  second: 'Talks with callers from outside',
  fresh: () => ({ name: '', address: '', limitSeconds: 4, mostTurns: 12 }),
  draftOf: ({ name, address, limitSeconds, mostTurns }) => ({ name, address, limitSeconds, mostTurns }),
  words: {
    ...{ name: 'Name', address: 'Address', key: 'Key' },
    ...{ limitSeconds: 'Seconds to answer', mostTurns: 'Most turns' },
  },
  show: (_field, value) => showPlain(value),
  unused: 'No plan hands callers to this bot yet.',
};

export const botExample = 'https://bot.example/talk';

/** Why nothing came of a try, and what to look at. */
export const faultWords: Record<BotFault, string> = {
  slow: 'It did not answer in its seconds. Callers would go the way for no answer.',
  fault: 'It cannot be reached, refused the key, or has a fault. Check address and key.',
  nonsense: 'What it sent is no answer. It answers JSON as the documents of the API say.',
  tooLarge: 'What it sent is too large.',
};
export const thenWords = { listen: 'listens', done: 'is done', handOver: 'hands over' } as const;
