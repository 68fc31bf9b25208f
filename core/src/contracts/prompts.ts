import { promptKinds } from '../sound/kinds.ts';
import { isLanguage } from '../model/languages.ts';
import { mostSoundBytes } from '../sound/limits.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  base64,
  choice,
  decimal,
  flag,
  id,
  instant,
  list,
  name,
  nullable,
  object,
  type Out,
  ruled,
  text,
  usually,
  whole,
} from './parts.ts';

const language = ruled(text(12), (value) =>
  isLanguage(value) ? null : 'A language looks like en or fr-CA.',
);

/** Spoken by a voice, recorded in a browser, or brought as a file. */
const origin = choice('spoken', 'recorded', 'brought');

const soundView = object({
  id,
  origin,
  current: flag,
  seconds: decimal,
  /** dBFS; null for silence. */
  loudness: nullable(decimal),
  peaks: list(whole(0, 100), 128),
  silent: flag,
  clipping: flag,
  at: instant,
});
export type SoundView = Out<typeof soundView>;

/** A sound that was made or brought, with the words the prompt had then. */
export const earlierSound = object({
  ...{ id, origin, words: text(5_000), seconds: decimal },
  ...{ peaks: list(whole(0, 100), 128), at: instant },
});
export type EarlierSound = Out<typeof earlierSound>;

/** A sound as a file, in base64; `recorded` when somebody spoke it just now. */
export const broughtSound = object({ file: base64(mostSoundBytes), recorded: usually(flag, false) });

/** What callers hear: what is written (`words`) is heard once it is published. */
export const prompts = itemContract(
  { area: 'Prompts', path: '/api/prompts', one: 'a prompt', many: 'prompts' },
  {
    ...{ name, kind: choice(...promptKinds), language, words: text(5_000) },
    /** Whose own it is, when it is somebody's: their greeting, their voice. */
    personId: nullable(id),
    /** The prompt whom callers of this language hear this one instead of; null for one that stands for itself. */
    translationOf: usually(nullable(id), null),
  },
  {
    /** The sound made or brought last; null while there is none. `current` when it says what is written. */
    sound: nullable(soundView),
    /** Whether callers hear a sound of their own; else the words are only known by how long they take. */
    heard: nullable(soundView),
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
