import type { PromptKind } from './kinds.ts';

/** What is played where a prompt has no sound that can be played: never silence. The sounds lie in server/sounds. */
export interface DefaultSound {
  /** Null for tones. */
  words: string | null;
  seconds: number;
}

export const defaultSounds: Readonly<Record<PromptKind, DefaultSound>> = {
  greeting: { words: 'Thank you for calling. Please stay on the line.', seconds: 4 },
  menu: { words: 'Please press a key.', seconds: 2 },
  announcement: { words: 'Please bear with us for a moment.', seconds: 3 },
  closed: { words: 'We are closed now. Please call again during our opening hours.', seconds: 5 },
  unanswered: { words: 'Nobody can take your call at the moment.', seconds: 3 },
  hold: { words: null, seconds: 8 },
  waiting: { words: 'Please wait. You will be served in turn.', seconds: 4 },
  ringback: { words: null, seconds: 6 },
  voicemailGreeting: {
    words: 'Nobody is here just now. Please leave a message after the tone.',
    seconds: 5,
  },
  leaveBehind: { words: 'We tried to reach you. Please call us back.', seconds: 4 },
};
