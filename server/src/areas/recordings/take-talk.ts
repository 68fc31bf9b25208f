import type { Database } from '../../database/connection.ts';
import { NotASound } from '../../sound/not-a-sound.ts';
import type { Sounds } from '../../sound/sounds.ts';
import type { RecordingFiles } from './files.ts';
import { keepTalkSound } from './recordings.queries.ts';

/** A talk is recorded for its first hour; a little more for what a gateway adds. */
export const longestTalkSeconds = 3_620;

/** Reads what a gateway recorded of a talk by its content, and keeps it as a file. A sentence when it is not taken. */
export async function takeTalk(
  { database, sounds, files }: { database: Database; sounds: Sounds; files: RecordingFiles | null },
  { callId, part, file }: { callId: string; part: number; file: Buffer },
): Promise<string | null> {
  if (files === null) return 'This server keeps no recordings: NIGHT_BELL_STORAGE is not set.';
  try {
    const sound = await sounds.prepare(file, longestTalkSeconds);
    const place = await files.keep(callId, part, sound.telephone);
    await keepTalkSound(database, { callId, part, file: place, sound });
    return null;
  } catch (error) {
    if (error instanceof NotASound) return error.message;
    throw error;
  }
}
