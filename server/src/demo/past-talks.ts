import { keepTalkSound } from '../areas/recordings/recordings.queries.ts';
import type { RecordingFiles } from '../areas/recordings/files.ts';
import type { Database } from '../database/connection.ts';
import type { Sounds } from '../sound/sounds.ts';
import { cutTo, wordsFor } from './past-messages.ts';

const latest = 4;
/** Making a minute of sound ready takes two seconds, and whoever starts the demo waits for it. */
const longestSeconds = 90;

/** The latest talks that were recorded in the past can be heard, spoken where there is a voice; of older ones only that they were. */
export async function loadTalks(
  database: Database,
  sounds: Sounds,
  files: RecordingFiles,
  sentences: readonly string[],
): Promise<void> {
  const talks = await database('recording')
    .where('seconds', '<', longestSeconds)
    .orderBy('at', 'desc')
    .limit(latest)
    .select('call_id', 'part', 'seconds');
  for (const [index, { call_id: callId, part, seconds }] of talks.entries()) {
    try {
      const words = wordsFor(sentences, index, seconds);
      const file = cutTo(await sounds.voice.speak(words, 'en'), seconds);
      const sound = await sounds.prepare(file, Math.ceil(seconds) + 1);
      const place = await files.keep(callId, part, sound.telephone);
      await keepTalkSound(database, { callId, part, file: place, sound });
    } catch {
      // No voice here: the talks are there, and say that their sound never came.
      return;
    }
  }
}
