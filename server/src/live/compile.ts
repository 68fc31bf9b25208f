import type { Knex } from 'knex';
import { compiledPlan } from '@night-bell/core/plan/document';
import { defaultSounds } from '@night-bell/core/sound/defaults';
import { spokenSeconds } from '@night-bell/core/plan/spoken';
import { planOf } from '@night-bell/core/plan/compile';
import { type Configuration, defaultSettings, type QueueItem } from '@night-bell/core/model/configuration';
import type { QueueView } from '@night-bell/core/contracts/queues';
import { compiledHours } from '../areas/hours/store.ts';
import { translationsIn } from '../areas/prompts/translations.ts';
import { type PartName, partNames, type PartsRead, setUpParts } from './set-up-parts.ts';
import { zoneClock } from './zones.ts';

/** Compiles the set-up in the database into the snapshot the exchange reads. Only what is in use is in it. */
export function compileConfiguration(database: Knex): Promise<Configuration> {
  return new SetUpReader().read(database);
}

/** Reads the set-up again and again: of what nothing was written since, it keeps what it has. */
export class SetUpReader {
  private readonly kept = new Map<PartName, { stamp: string; value: unknown }>();
  /** Parts that the latest reading read, and did not have. */
  fresh: readonly PartName[] = [];

  /** All of it as of one instant: stamps and rows are those of one snapshot. */
  read(database: Knex): Promise<Configuration> {
    return database.transaction(
      async (trx) => {
        const touched = await touches(trx);
        const fresh: PartName[] = [];
        const values: Partial<Record<PartName, unknown>> = {};
        for (const name of partNames) {
          const stamp = setUpParts[name].from.map((source) => touched.get(source) ?? '').join(' ');
          const kept = this.kept.get(name);
          if (kept?.stamp === stamp) {
            values[name] = kept.value;
            continue;
          }
          const value: unknown = await setUpParts[name].read(trx);
          this.kept.set(name, { stamp, value });
          values[name] = value;
          fresh.push(name);
        }
        this.fresh = fresh;
        return assembled(values as PartsRead);
      },
      { isolationLevel: 'repeatable read', readOnly: true },
    );
  }
}

/** Of each source, which writings one sees. */
async function touches(trx: Knex): Promise<Map<string, string>> {
  const rows = await trx('set_up_touch')
    .groupBy('part')
    .select<{ part: string; seen: string }[]>(
      'part',
      trx.raw(`md5(string_agg(id::text, ',' order by id)) as seen`),
    );
  return new Map(rows.map(({ part, seen }) => [part, seen]));
}

const dayMs = 86_400_000;

/** Writings of days ago tell nobody anything. Whoever has seen them reads their parts once more. */
export async function forgetTouches(database: Knex): Promise<number> {
  return database('set_up_touch')
    .where('at', '<', new Date(Date.now() - dayMs))
    .delete();
}

/** What waiting in a queue is like. */
function waitingIn(queue: QueueView): Partial<QueueItem> {
  const { whenAllAway, leaveKey, whenLeaves, keepsTime, agePoints, agesAcross, recordPriorities } = queue;
  const { ringsAway, ringsInWrapUp, mostTexts, phoneShows, musicId, announceSeconds } = queue;
  const { announcementId: promptId, tellsPlace, tellsWait, callBack } = queue;
  return {
    ...{ whenAllAway, leaveKey, whenLeaves, keepsTime, agePoints, agesAcross, recordPriorities },
    ...{ ringsAway, ringsInWrapUp, mostTexts, phoneShows, callBack },
    hears: { musicId, everySeconds: announceSeconds, promptId, tellsPlace, tellsWait },
  };
}

function assembled(read: PartsRead): Configuration {
  const { people, phones, queues, numbers, trunks, outside, rooms, faxBoxes, hours, prompts } = read;
  const { plans, rules, campaigns, blocked, codes, boxes } = read;
  const pins = new Map(read.pins.map((room) => [room.id, room]));
  const translations = translationsIn(prompts);
  const { time_zone, seats } = read.installation;
  const skillNames = new Map(read.skills.map(({ id, name }) => [id, name]));
  const byTeam = new Map<string, string[]>();
  for (const person of people) {
    if (person.teamId === null) continue;
    const team = byTeam.get(person.teamId);
    if (team === undefined) byTeam.set(person.teamId, [person.id]);
    else team.push(person.id);
  }
  const inUse = new Set(people.map((person) => person.id));
  const peopleIn = (member: string) => byTeam.get(member) ?? (inUse.has(member) ? [member] : []);
  const resolve = ({ members, turns, joins }: Pick<QueueView, 'members' | 'turns' | 'joins'>) => {
    const turnOf = new Map(turns.map(({ memberId, turn }) => [memberId, turn]));
    const joinsAfter = new Map(joins.map(({ memberId, afterSeconds }) => [memberId, afterSeconds]));
    // Who is in it twice, by themselves and by their team, is where they stand first.
    const resolved = new Map<string, string>();
    for (const member of members)
      for (const person of peopleIn(member)) if (!resolved.has(person)) resolved.set(person, member);
    const by = [...resolved.values()];
    return {
      members: [...resolved.keys()],
      ...(turns.length === 0 ? {} : { turns: by.map((member) => turnOf.get(member) ?? 1) }),
      ...(joins.length === 0 ? {} : { joinsAfter: by.map((member) => joinsAfter.get(member) ?? 0) }),
    };
  };
  return {
    settings: { ...defaultSettings, clock: zoneClock(time_zone), seats },
    people,
    phones,
    queues: queues.map((queue) => ({
      id: queue.id,
      name: queue.name,
      extension: queue.extension,
      priority: queue.priority,
      ringSeconds: queue.ringSeconds,
      wrapUpSeconds: queue.wrapUpSeconds,
      ...resolve(queue),
      ...{ distribution: queue.distribution, ringsAtMost: queue.ringsAtMost },
      skills: queue.skills.map(({ skillId, minimum, relaxes }) => ({
        ...{ skillId, name: skillNames.get(skillId) ?? '', minimum },
        ...(relaxes.length === 0 ? {} : { relaxes }),
      })),
      preferOwner: queue.preferOwner,
      maxWaiting: queue.maxWaiting,
      whenFull: queue.whenFull,
      maxWaitSeconds: queue.maxWaitSeconds,
      whenTooLong: queue.whenTooLong,
      whenNobody: queue.whenNobody,
      ...{ hoursId: queue.hoursId, whenClosed: queue.whenClosed, atClosing: queue.atClosing },
      ...waitingIn(queue),
      ...{ recording: queue.recording, recordingNoticeId: queue.recordingNoticeId, mayPause: queue.mayPause },
    })),
    numbers: numbers.map((number) => ({
      id: number.id,
      e164: number.e164,
      label: number.label,
      plan:
        number.destination === null
          ? null
          : planOf(`${number.id}.direct`, number.version, number.destination),
      ...{ sourceId: number.sourceId, mostCalls: number.mostCalls, priority: number.priority },
      sourceName: number.sourceName,
    })),
    voicemailBoxes: boxes,
    trunks: trunks.map(({ id, name, host, account, channels, callerId }) => ({
      ...{ id, name, host, account, channels, callerId },
    })),
    outsideNumbers: outside.map(({ id, name, extension, e164, trunkId, ringSeconds }) => ({
      ...{ id, name, extension, e164, trunkId, ringSeconds },
    })),
    rooms: rooms.map(({ id, name, extension, joinTone }) => ({
      ...{ name, extension, joinTone, ...pins.get(id)! },
    })),
    ringGroups: read.ringGroups,
    blocked,
    codes,
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
    regions: read.regions,
    bots: read.bots,
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
