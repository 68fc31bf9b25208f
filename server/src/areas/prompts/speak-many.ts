import { type PromptView } from '@night-bell/core/contracts/prompts';
import type { Database } from '../../database/connection.ts';
import { Problem } from '../../http/problems.ts';
import type { JobDefinition } from '../../jobs/jobs.ts';
import type { Sounds } from '../../sound/sounds.ts';
import { speak } from './sounds.ts';
import { promptItem, publishPrompt } from './store.ts';

export interface SpeakInput {
  promptIds: string[];
  publish: boolean;
}

/** Its sound is missing, or a voice said other words than are written now. */
export const needsVoice = ({ retired, words, sound }: PromptView): boolean =>
  !retired && words.trim() !== '' && (sound === null || !sound.current);

const counted = (count: number) => (count === 1 ? '1 prompt' : `${count} prompts`);

/** Many prompts spoken one after the other, and published if wished; one that cannot be is said, and keeps nobody up. */
export function speakMany(database: Database, sounds: Sounds): JobDefinition<SpeakInput> {
  return {
    title: ({ promptIds }) => `Speaking ${counted(promptIds.length)}`,
    total: ({ promptIds }) => promptIds.length,
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
      const done = `${counted(spoken)} spoken${publish ? ' and published' : ''}.`;
      return refused.length === 0 ? done : `${done} Not ${refused.join(' ')}`;
    },
  };
}
