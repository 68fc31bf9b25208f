import type { Knex } from 'knex';
import type { EarlierSound, SoundView } from '@night-bell/core/contracts/prompts';
import { Problem } from '../../http/problems.ts';
import { NotASound } from '../../sound/not-a-sound.ts';
import type { Prepared } from '../../sound/prepared.ts';
import type { Sounds } from '../../sound/sounds.ts';
import { NoVoice } from '../../sound/voice.ts';
import { type Author, newId, recordChange, tellPages } from '../../spine/items.ts';
import { promptItem } from './store.ts';

/** Sounds of one prompt that are kept: the latest, and whatever callers hear. */
const keptSounds = 10;

/** Speaks what is written. The sound waits to be published. */
export async function speak(database: Knex, sounds: Sounds, id: string, author: Author): Promise<void> {
  const { words, language } = await promptItem.get(database, id);
  if (words.trim() === '')
    throw Problem.field('/words', 'There are no words to speak yet. Write them first.');
  const file = await said(sounds.voice.speak(words, language), '/language');
  await keep(
    database,
    id,
    { origin: 'spoken', words, file, prepared: await said(sounds.prepare(file), '/words') },
    author,
  );
}

/** Takes a file as the prompt's sound, by what is in it; `recorded` when it was spoken into a browser. */
export async function bring(
  database: Knex,
  sounds: Sounds,
  id: string,
  { file, recorded }: { file: Uint8Array; recorded: boolean },
  author: Author,
): Promise<void> {
  const { words } = await promptItem.get(database, id);
  const prepared = await said(sounds.prepare(file), '/file');
  if (prepared.silent)
    throw Problem.field('/file', 'Nothing can be heard in this file. Record it again, louder.');
  await keep(database, id, { origin: recorded ? 'recorded' : 'brought', words, file, prepared }, author);
}

/** What went wrong is said at the field it is about. */
async function said<Value>(work: Promise<Value>, path: string): Promise<Value> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof NotASound || error instanceof NoVoice) throw Problem.field(path, error.message);
    throw error;
  }
}

async function keep(
  database: Knex,
  promptId: string,
  {
    origin,
    words,
    file,
    prepared,
  }: { origin: SoundView['origin']; words: string; file: Uint8Array; prepared: Prepared },
  author: Author,
): Promise<void> {
  const id = newId();
  await database.transaction(async (trx) => {
    await trx('sound').insert({
      ...{ id, prompt_id: promptId, origin, words, seconds: prepared.seconds, peaks: prepared.peaks },
      loudness: Number.isFinite(prepared.loudness) ? prepared.loudness : null,
      ...{ silent: prepared.silent, clipping: prepared.clipping },
      file: Buffer.from(file),
      telephone: Buffer.from(prepared.telephone),
    });
    await trx('prompt').where({ id: promptId }).update({ sound_id: id });
    const old = await trx('sound')
      .where({ prompt_id: promptId })
      .orderBy('at', 'desc')
      .offset(keptSounds)
      .pluck('id');
    await trx('sound')
      .whereIn('id', old)
      .whereNotIn('id', trx('prompt').whereNotNull('published_sound_id').select('published_sound_id'))
      .delete();
    await recordChange(trx, { item_id: promptId, what: origin, before: null, after: null }, author);
    await tellPages(trx, 'prompt', promptId);
  });
}

/** What a prompt sounded like, newest first; at most the last ten, and what callers hear. */
export async function soundsOf(database: Knex, promptId: string): Promise<EarlierSound[]> {
  const rows = await database('sound')
    .where({ prompt_id: promptId })
    .orderBy('at', 'desc')
    .select<(Omit<EarlierSound, 'at'> & { at: Date })[]>('id', 'origin', 'words', 'seconds', 'peaks', 'at');
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}

/** An earlier sound is the prompt's again, with the words it had then. It waits to be published. */
export async function takeEarlier(
  trx: Knex.Transaction,
  promptId: string,
  { soundId, version }: { soundId: string; version: number },
  author: Author,
): Promise<void> {
  const earlier = (await soundsOf(trx, promptId)).find(({ id }) => id === soundId);
  if (earlier === undefined) throw new Problem('notFound', 'This sound is not kept any more.');
  const draft = { ...promptItem.snapshot(await promptItem.get(trx, promptId)), words: earlier.words };
  await promptItem.change(trx, promptId, version, draft, author);
  await trx('prompt').where({ id: promptId }).update({ sound_id: soundId });
  await recordChange(
    trx,
    { item_id: promptId, what: 'earlierSound', before: null, after: { of: earlier.at } },
    author,
  );
}

/** A sound as callers hear it: WAV, G.711. */
export async function soundFile(database: Knex, id: string): Promise<Buffer> {
  const row = await database('sound').where({ id }).first<{ telephone: Buffer } | undefined>('telephone');
  if (row === undefined) throw new Problem('notFound', 'There is no such sound any more.');
  return row.telephone;
}

/** What callers hear of a prompt now. */
export async function soundHeard(database: Knex, promptId: string): Promise<Buffer> {
  const row = await database('prompt')
    .where({ id: promptId })
    .first<{ published_sound_id: string | null } | undefined>('published_sound_id');
  if (row?.published_sound_id == null)
    throw new Problem('notFound', 'Callers hear nothing of this prompt yet.');
  return soundFile(database, row.published_sound_id);
}

/** Words said by the voice, as a file; by the usual one where there is none of the language. */
export async function spoken(
  sounds: Sounds,
  { words, language }: { words: string; language: string },
): Promise<Buffer> {
  return Buffer.from(await said(sounds.voice.speak(words, language), '/language'));
}
