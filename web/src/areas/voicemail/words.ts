import type {
  MessageState,
  VoicemailBoxDraft,
  VoicemailBoxesContract,
  VoicemailBoxView,
} from '@night-bell/core/contracts/voicemail-boxes';
import type { ShapeName } from '../../kit/Shape.vue';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const voicemailApi = itemApi<VoicemailBoxesContract>('voicemail', '/api/voicemail-boxes');

export const messageShapes: Record<MessageState, ShapeName> = {
  new: 'messageNew',
  heard: 'messageHeard',
  kept: 'messageKept',
};
export const messageWords: Record<MessageState, string> = { new: 'New', heard: 'Heard', kept: 'Kept' };

const fresh = (): VoicemailBoxDraft => ({
  ...{ name: '', extension: null, hoursId: null, whenFull: null, listeners: [], mailTo: [] },
  greetings: { open: { outside: null, inside: null }, closed: { outside: null, inside: null } },
  ...{ maxMessageSeconds: 180, mostMessages: 100, keepDays: 30 },
});

export const voicemailArea: ItemArea<VoicemailBoxDraft, VoicemailBoxView> = {
  api: voicemailApi,
  page: '/voicemail',
  savedAs: 'voicemailBoxes',
  title: 'Voicemail boxes',
  one: 'box',
  second: 'Voicemail box',
  fresh,
  draftOf: (view) => {
    const { name, extension, hoursId, greetings, maxMessageSeconds } = view;
    const { mostMessages, keepDays, whenFull, listeners, mailTo } = view;
    return {
      ...{ name, extension, hoursId, greetings, maxMessageSeconds, mostMessages },
      ...{ keepDays, whenFull, listeners, mailTo },
    };
  },
  words: {
    name: 'Name',
    extension: 'Extension',
    hoursId: 'Opening hours',
    greetings: 'Greetings',
    maxMessageSeconds: 'Longest message',
    mostMessages: 'Full at',
    keepDays: 'Kept for',
    whenFull: 'When it is full',
    listeners: 'Who hears them',
    mailTo: 'Told by mail',
  },
  show: (field, value) =>
    field === 'maxMessageSeconds'
      ? `${String(value)} s`
      : field === 'keepDays'
        ? `${String(value)} days`
        : showPlain(value),
  unused: 'Nothing but its owner leads here.',
};

/** Whose it is, in a word. */
export const ownerWords: Record<'person' | 'queue' | 'shared', string> = {
  person: 'of a person',
  queue: 'of a queue',
  shared: 'shared',
};

/** Among boxes nobody needs to be told that they are for voicemail. */
export const shortName = (name: string) => name.replace(/('s)? voicemail$/, '');
