import { needsVoice } from '@night-bell/core/sound/needs-voice';
import type { Database } from '../../database/connection.ts';
import { Problem } from '../../http/problems.ts';
import { counted } from '../../jobs/counted.ts';
import type { JobDefinition } from '../../jobs/jobs.ts';
import type { Sounds } from '../../sound/sounds.ts';
import { speak } from './sounds.ts';
import { promptItem, publishPrompt } from './store.ts';

export interface SpeakInput {
  promptIds: string[];
  publish: boolean;
}

/** Many prompts spoken one after the other, and published if wished; one that cannot be is said, and keeps nobody up. */
export function speakMany(database: Database, sounds: Sounds): JobDefinition<SpeakInput> {
  return {
    title: ({ promptIds }) => `Speaking ${counted(promptIds.length, 'prompt', 'prompts')}`,
    total: ({ promptIds }) => promptIds.length,
    whenStopped: 'Stopped. Those spoken by then stay so.',
    run: async ({ promptIds, publish }, going) => {
      const { author } = going;
      const refused: string[] = [];
      let spoken = 0;
      for (const [index, id] of promptIds.entries()) {
        await going.at(index);
        const prompt = await promptItem.get(database, id);
        // Spoken meanwhile: by somebody, or before the job was begun again.
        if (prompt.retired || (!needsVoice(prompt) && !publish)) continue;
        try {
          if (needsVoice(prompt)) await speak(database, sounds, id, author);
          if (publish) {
            const { version } = await promptItem.get(database, id);
            await database.transaction((trx) => publishPrompt(trx, id, version, author));
          }
          spoken++;
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          refused.push(`${prompt.name}: ${error.errors[0]?.detail ?? error.detail}`);
        }
      }
      going.done = promptIds.length;
      const done = `${counted(spoken, 'prompt', 'prompts')} spoken${publish ? ' and published' : ''}.`;
      return refused.length === 0 ? done : `${done} Not ${refused.join(' ')}`;
    },
  };
}
