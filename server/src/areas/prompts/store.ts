import type { Knex } from 'knex';
import {
  type PromptDraft,
  prompts,
  type PromptView,
  type SoundView,
} from '@night-bell/core/contracts/prompts';
import { spokenSeconds } from '@night-bell/core/plan/spoken';
import { Problem } from '../../http/problems.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';
import { type Author, checkInUse } from '../../spine/items.ts';
import { publishItem } from '../../spine/publish.ts';
import { checkTranslation } from './translations.ts';

interface Row extends PromptDraft {
  id: string;
  version: number;
  retired: boolean;
  publishedWords: string | null;
  publishedAt: Date | null;
  uses: number;
  sound: Sound | null;
  heard: Sound | null;
}

interface Sound {
  id: string;
  origin: SoundView['origin'];
  words: string;
  seconds: number;
  loudness: number | null;
  peaks: number[];
  silent: boolean;
  clipping: boolean;
  at: string;
}

const soundBy = (
  column: string,
) => `(select json_build_object('id', s.id, 'origin', s.origin, 'words', s.words,
    'seconds', s.seconds, 'loudness', s.loudness, 'peaks', s.peaks, 'silent', s.silent, 'clipping', s.clipping, 'at', s.at)
  from sound s where s.id = t.${column})`;

function soundView(sound: Sound | null, words: string | null): SoundView | null {
  if (sound === null) return null;
  const { words: spoken, at, ...rest } = sound;
  // What somebody recorded themselves says what they meant: only a voice can be behind the words.
  return { ...rest, current: sound.origin !== 'spoken' || spoken === words, at: Date.parse(at) };
}

export const promptItem = defineItem<typeof prompts.path, PromptDraft, PromptView, Row>({
  kind: 'prompt',
  contract: prompts,
  word: 'prompt',
  table: 'prompt',
  columns: {
    kind: { column: 'kind' },
    language: { column: 'language' },
    words: { column: 'words' },
    personId: { column: 'person_id' },
    translationOf: { column: 'translation_of' },
  },
  more: {
    publishedWords: 't.published_words',
    publishedAt: 't.published_at',
    ...{ uses: usesOf, sound: soundBy('sound_id'), heard: soundBy('published_sound_id') },
  },
  view: ({ publishedAt, sound, heard, ...row }) => ({
    ...row,
    sound: soundView(sound, row.words),
    heard: soundView(heard, row.publishedWords),
    publishedAt: publishedAt?.getTime() ?? null,
    seconds: heard === null ? spokenSeconds(row.publishedWords ?? '') : Math.ceil(heard.seconds),
  }),
  references: ({ personId }) => (personId === null ? [] : [{ to: personId, how: 'belongs to' }]),
  check: async (trx, draft, current) => {
    await checkInUse(trx, draft.personId, 'person', '/personId');
    await checkTranslation(trx, draft, current?.id ?? null);
  },
});

/** From now on callers hear what is written. */
export async function publishPrompt(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const { words, sound } = await promptItem.get(trx, id);
  if (words.trim() === '')
    throw Problem.field('/words', 'There are no words to be heard yet. Write them first.');
  if (sound !== null && !sound.current)
    throw new Problem(
      'notNow',
      'Its sound says other words than are written. Speak it again, or bring another, then publish.',
    );
  await publishItem(trx, { kind: 'prompt', id, version, after: { words } }, author);
  await trx('prompt')
    .where({ id })
    .update({ published_words: words, published_at: trx.fn.now(), published_sound_id: sound?.id ?? null });
}
