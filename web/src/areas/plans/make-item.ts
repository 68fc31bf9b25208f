import type { ItemKind } from '@night-bell/core/plan/fields';
import { api, ask } from '../../api/client.ts';
import { useCollection } from '../../shell/collection.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { hoursApi } from '../hours/words.ts';
import { botApi, botArea } from '../bots/words.ts';
import { regionApi } from '../regions/words.ts';
import { ringGroupApi, ringGroupArea } from '../ring-groups/words.ts';
import { promptApi, speakPrompt } from '../prompts/words.ts';
import { voicemailApi, voicemailArea } from '../voicemail/words.ts';
import type { PromptKind } from '@night-bell/core/sound/kinds';

/** Kinds that can be made where a step names one, and what is said of it. */
export const makeable: Partial<Record<ItemKind, string>> = {
  prompt: 'Write a new one',
  queue: 'Make a new queue',
  ringGroup: 'Make a new ring group',
  hours: 'Make a new set of hours',
  voicemail: 'Make a new voicemail box',
  region: 'Make a new region table',
  bot: 'Add a bot',
};
export const afterwards: Partial<Record<ItemKind, string>> = {
  queue: 'With a voicemail box of its own. Its members are added under Queues.',
  ringGroup: 'With a voicemail box of its own. Who is rung is set under Ring groups.',
  hours: 'Open Monday to Friday, 09:00 to 17:00, by the company’s clock; changed under Hours.',
  voicemail: 'Who hears it is set under Destinations.',
  region: 'Its rows are added under Region tables.',
  bot: 'Its key, when it wants one, is added under Bots.',
};

const nineToFive = (day: number): [number, number][] => (day < 5 ? [[540, 1_020]] : []);

/** Makes things on the spot, by their name alone; prompts with their words, which are spoken and published at once. */
export function useMaking() {
  const setUp = useSetUp();
  const session = useSession();
  const prompts = useCollection(promptApi);
  const hours = useCollection(hoursApi);

  /** The id of what was made. Throws ApiProblem. */
  return async (kind: ItemKind, name: string, words: string, promptKind: PromptKind): Promise<string> => {
    if (kind === 'queue') {
      const { id } = await ask(api.POST('/api/queues', { body: { name } }));
      await setUp.load();
      return id;
    }
    if (kind === 'hours') {
      const weekly = Array.from({ length: 7 }, (_, day) => nineToFive(day));
      const made = await hoursApi.create({ name, zone: session.timeZone, weekly, days: [] });
      hours.put(made);
      return made.id;
    }
    if (kind === 'ringGroup')
      return (await ringGroupApi.create({ ...ringGroupArea(setUp.nameOf).fresh(), name })).id;
    if (kind === 'bot') return (await botApi.create({ ...botArea.fresh(), name, address: words })).id;
    if (kind === 'region') return (await regionApi.create({ name })).id;
    if (kind === 'voicemail') {
      const made = await voicemailApi.create({ ...voicemailArea.fresh(), name });
      await setUp.load();
      return made.id;
    }
    const draft = { name, kind: promptKind, language: 'en', personId: null, words, translationOf: null };
    const made = await promptApi.create(draft);
    // Spoken at once where there is a voice; without one callers hear the default of its kind.
    const spoken = await speakPrompt(made.id).catch(() => made);
    const heard = words.trim() === '' ? made : await promptApi.publish(made.id, spoken.version);
    prompts.put(heard);
    return made.id;
  };
}
