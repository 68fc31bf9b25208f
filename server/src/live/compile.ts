import type { Knex } from 'knex';
import { compiledPlan } from '@night-bell/core/plan/document';
import { defaultSounds } from '@night-bell/core/sound/defaults';
import { spokenSeconds } from '@night-bell/core/plan/spoken';
import { planOf } from '@night-bell/core/plan/compile';
import { type Configuration, defaultSettings } from '@night-bell/core/model/configuration';
import { compiledBlocked } from '../areas/blocked/store.ts';
import { campaignItem } from '../areas/campaigns/store.ts';
import { compiledCodes } from '../areas/codes/store.ts';
import { faxBoxItem } from '../areas/fax-boxes/store.ts';
import { compiledHours, hoursItem } from '../areas/hours/store.ts';
import { planItem } from '../areas/plans/store.ts';
import { promptItem } from '../areas/prompts/store.ts';
import { translationsIn } from '../areas/prompts/translations.ts';
import { listNumbers } from '../areas/numbers/store.ts';
import { outsideItem } from '../areas/outside/store.ts';
import { compiledPeople, compiledPhones } from '../areas/people/compiled.ts';
import { listQueues } from '../areas/queues/store.ts';
import { roomItem, roomPins } from '../areas/rooms/store.ts';
import { ruleItem } from '../areas/rules/store.ts';
import { installation } from '../areas/session/store.ts';
import { skillItem } from '../areas/skills/store.ts';
import { compiledBoxes } from '../areas/voicemail/store.ts';
import { trunkItem } from '../areas/trunks/store.ts';
import { zoneClock } from './zones.ts';

/** Compiles the set-up in the database into the snapshot the exchange reads. Only what is in use is in it. */
export async function compileConfiguration(database: Knex): Promise<Configuration> {
  const people = await compiledPeople(database);
  const queues = (await listQueues(database)).filter((queue) => !queue.retired);
  const numbers = await listNumbers(database);
  const trunks = (await trunkItem.list(database)).filter((trunk) => !trunk.retired);
  const outside = (await outsideItem.list(database)).filter((each) => !each.retired);
  const rooms = (await roomItem.list(database)).filter((room) => !room.retired);
  const pins = new Map((await roomPins(database)).map((room) => [room.id, room]));
  const faxBoxes = (await faxBoxItem.list(database)).filter((box) => !box.retired);
  const hours = (await hoursItem.list(database)).filter((set) => !set.retired);
  const prompts = (await promptItem.list(database)).filter((prompt) => !prompt.retired);
  const translations = translationsIn(prompts);
  const plans = (await planItem.list(database)).filter((plan) => !plan.retired);
  const rules = (await ruleItem.list(database)).filter((rule) => !rule.retired);
  const campaigns = (await campaignItem.list(database)).filter((campaign) => !campaign.retired);
  const { time_zone, seats } = await installation(database);
  const skillNames = new Map((await skillItem.list(database)).map(({ id, name }) => [id, name]));
  const byTeam = new Map<string, string[]>();
  for (const person of people) {
    if (person.teamId === null) continue;
    const team = byTeam.get(person.teamId);
    if (team === undefined) byTeam.set(person.teamId, [person.id]);
    else team.push(person.id);
  }
  const inUse = new Set(people.map((person) => person.id));
  const resolve = (members: string[]) => [
    ...new Set(members.flatMap((member) => byTeam.get(member) ?? (inUse.has(member) ? [member] : []))),
  ];
  return {
    settings: { ...defaultSettings, clock: zoneClock(time_zone), seats },
    people,
    phones: await compiledPhones(database, numbers),
    queues: queues.map((queue) => ({
      id: queue.id,
      name: queue.name,
      extension: queue.extension,
      priority: queue.priority,
      ringSeconds: queue.ringSeconds,
      wrapUpSeconds: queue.wrapUpSeconds,
      members: resolve(queue.members),
      skills: queue.skills.map(({ skillId, minimum }) => ({
        skillId,
        name: skillNames.get(skillId) ?? '',
        minimum,
      })),
      preferOwner: queue.preferOwner,
      maxWaiting: queue.maxWaiting,
      whenFull: queue.whenFull,
      maxWaitSeconds: queue.maxWaitSeconds,
      whenTooLong: queue.whenTooLong,
      whenNobody: queue.whenNobody,
      ...{ hoursId: queue.hoursId, whenClosed: queue.whenClosed, atClosing: queue.atClosing },
    })),
    numbers: numbers.map((number) => ({
      id: number.id,
      e164: number.e164,
      label: number.label,
      plan:
        number.destination === null
          ? null
          : planOf(`${number.id}.direct`, number.version, number.destination),
      ...{ sourceId: number.sourceId, mostCalls: number.mostCalls },
    })),
    voicemailBoxes: await compiledBoxes(database),
    trunks: trunks.map(({ id, name, host, account, channels, callerId }) => ({
      ...{ id, name, host, account, channels, callerId },
    })),
    outsideNumbers: outside.map(({ id, name, extension, e164, trunkId, ringSeconds }) => ({
      ...{ id, name, extension, e164, trunkId, ringSeconds },
    })),
    rooms: rooms.map(({ id, name, extension, joinTone }) => ({
      ...{ name, extension, joinTone, ...pins.get(id)! },
    })),
    blocked: await compiledBlocked(database),
    codes: await compiledCodes(database),
    faxBoxes: faxBoxes.map(({ id, name, extension }) => ({ id, name, extension })),
    hours: hours.map(compiledHours),
    prompts: prompts.map(({ id, name, kind, heard, publishedWords }) => ({
      ...{ id, name },
      ...(translations.has(id) ? { translations: translations.get(id)! } : {}),
      // A sound that is not there is replaced by the default of its kind, never by silence.
      ...(heard === null
        ? { seconds: defaultSounds[kind].seconds, words: defaultSounds[kind].words ?? '' }
        : { seconds: Math.ceil(heard.seconds), words: publishedWords ?? '' }),
    })),
    plans: plans.flatMap(({ id, name, live, published }) =>
      live === null || published === null ? [] : [{ ...compiledPlan(id, published.version, live), name }],
    ),
    rules: rules.map(({ id, name, pattern, strip, prepend, trunkIds, use, teamIds }) => ({
      ...{ id, name, pattern, strip, prepend, trunkIds, use, teamIds },
    })),
    // A campaign without a queue, trunk or number cannot run; the exchange need not know it.
    campaigns: campaigns.flatMap((campaign) => {
      const { queueId, trunkId, callerId } = campaign;
      if (queueId === null || trunkId === null || callerId === null) return [];
      return [
        {
          id: campaign.id,
          name: campaign.name,
          running: campaign.status === 'running',
          queueId,
          trunkId,
          callerId,
          numberId: campaign.numberId,
          ratio: campaign.ratio,
          mostInAir: campaign.mostInAir,
          ringSeconds: campaign.ringSeconds,
          abandonLimit: campaign.abandonPercent / 100,
          messageSeconds: messageSeconds(campaign.message),
          optOutKey: campaign.optOutKey,
        },
      ];
    }),
  };
}

/** The key may be pressed for two seconds after. */
function messageSeconds(message: string): number {
  return spokenSeconds(message) + 2;
}
