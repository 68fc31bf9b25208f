import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { DateTime } from 'luxon';
import { type Outcome, usualOutcomes } from '@night-bell/core/model/outcomes';
import type { CallFacts } from '@night-bell/core/story/facts';
import type { Configuration } from '@night-bell/core/model/configuration';
import { usualProfile } from '@night-bell/core/rehearse/behaviour';
import { rehearseDay, type RehearsedCall, type Shift } from '@night-bell/core/rehearse/day';
import { type Random, seededRandom, seedFrom } from '@night-bell/core/random/random';
import type { NewPerson } from '../areas/people/create.ts';
import { addOptOuts } from '../areas/opt-outs/store.ts';
import type { Database } from '../database/connection.ts';
import { compileConfiguration } from '../live/compile.ts';
import { keepTalk } from '../areas/recordings/recordings.queries.ts';
import { keepAnswer } from '../areas/surveys/surveys.queries.ts';
import { writeCalls } from '../live/log.queries.ts';
import type { DemoCampaign } from './outbound.ts';
import { PastContacts } from './past-contacts.ts';
import type { DemoPerson } from './person.ts';

const daysBack = 2;
/** Hours of the local day in which the running campaigns dialled: yesterday afternoon, and this morning. */
const dialled: Record<number, [from: number, to: number]> = { 1: [14, 17], 0: [9, 12] };
/** Those who call the freight desk directly are mostly its accounts. */
const freightLine = '+13605550112';
/** Share of callers who are in the customer records. */
const knownCallers = 0.35;
const outcomeGiven = 0.8;

export interface PastInput {
  folder: string;
  people: DemoPerson[];
  made: NewPerson[];
  timeZone: string;
  campaigns: DemoCampaign[];
}

/** The last days and today until now, by running the exchange over the set-up; marked as rehearsed. */
export async function rehearsePast(database: Database, input: PastInput): Promise<void> {
  const { folder, people, made, timeZone } = input;
  const configuration = await compileConfiguration(database);
  const read = <T>(file: string) => JSON.parse(readFileSync(join(folder, file), 'utf8')) as T;
  const arrivals = read<{ to: string; perHour: number[] }[]>('arrivals.json');
  const areas = read<string[]>('caller-areas.json');
  const known = await database('record_number').orderBy('e164').pluck<string[]>('e164');
  const freight = await database('record_number as n')
    .join('record as r', 'r.id', 'n.record_id')
    .whereRaw(`r.fields ->> 'kind' = 'freight account'`)
    .orderBy('n.e164')
    .pluck<string[]>('n.e164');
  const contacts = await PastContacts.load(database, seededRandom(seedFrom('past contacts')));
  const now = Date.now();
  for (let back = daysBack; back >= 0; back--) {
    const day = DateTime.fromMillis(now, { zone: timeZone }).startOf('day').minus({ days: back });
    const random = seededRandom(seedFrom('past', day.toISODate() ?? ''));
    const calls = rehearseDay(
      {
        configuration: paused(configuration),
        hourStarts: Array.from({ length: 25 }, (_, hour) => instantOf(day, hour)),
        arrivals,
        shifts: people.flatMap((person, index) => shiftsOf(made[index]!.id, person.shift, day)),
        profile: usualProfile,
        caller: (draw, to) => {
          if (to === freightLine && freight.length > 0 && draw() < 0.6)
            return freight[Math.floor(draw() * freight.length)]!;
          if (known.length > 0 && draw() < knownCallers) return known[Math.floor(draw() * known.length)]!;
          const area = areas[Math.floor(draw() * areas.length)]!;
          return `+1${area}55501${String(Math.floor(draw() * 100)).padStart(2, '0')}`;
        },
        record: (caller) => contacts.record(caller),
        events: dialling(configuration, day, dialled[back], now),
        contacts: (campaignId, count, at) => contacts.lease(campaignId, count, at),
        contactEnded: (facts) => contacts.ended(facts),
      },
      random,
    );
    const over = calls.filter(({ facts }) => facts.endedAt <= now);
    await database.transaction(async (trx) => {
      await writeCalls(trx, over, true);
      await keepSurveys(trx, configuration, over);
      for (const { talks } of over) for (const talk of talks) await keepTalk(trx, talk);
      const given = await writeOutcomes(trx, over, outcomesOf(configuration, input.campaigns), random);
      for (const { facts, outcome } of given) if (outcome.then === 'tryAgain') contacts.again(facts);
      for (const { facts } of given.filter(({ outcome }) => outcome.then === 'optOut')) {
        contacts.optedOut(facts.to);
        await addOptOuts(
          trx,
          [facts.to],
          {
            how: 'desk',
            byPerson: facts.personId,
            callId: facts.callId,
            campaignId: facts.campaignId,
            at: new Date(facts.endedAt),
          },
          false,
        );
      }
      const optedOut = over.filter(({ story }) => story.some((record) => record.kind === 'optedOut'));
      for (const { facts } of optedOut) {
        contacts.optedOut(facts.to);
        await addOptOuts(
          trx,
          [facts.to],
          { how: 'key', callId: facts.callId, campaignId: facts.campaignId, at: new Date(facts.endedAt) },
          false,
        );
      }
    });
  }
  await database.transaction((trx) => contacts.save(trx, now));
}

/** What callers answered after the talk, as it stands in the stories. */
async function keepSurveys(
  trx: Parameters<typeof writeCalls>[0],
  configuration: Configuration,
  over: readonly RehearsedCall[],
): Promise<void> {
  const planOf = new Map(
    configuration.numbers.map(({ id, plan }) => {
      const first = plan?.steps[plan.start];
      return [id, first?.kind === 'plan' ? String(first.config.planId) : null];
    }),
  );
  for (const { facts, story } of over)
    for (const record of story) {
      if (record.kind !== 'surveyAnswered') continue;
      const { callId, queueId, personId, numberId } = facts;
      const { question, answer, at } = record;
      const planId = planOf.get(numberId ?? '') ?? null;
      await keepAnswer(trx, { callId, question, answer, planId, queueId, personId }, new Date(at));
    }
}

function paused(configuration: Configuration): Configuration {
  return {
    ...configuration,
    campaigns: configuration.campaigns.map((campaign) => ({ ...campaign, running: false })),
  };
}

/** Starts the running campaigns and pauses them again, between the hours, and before `now`. */
function dialling(
  configuration: Configuration,
  day: DateTime,
  hours: [number, number] | undefined,
  now: number,
) {
  if (hours === undefined) return [];
  const [from, to] = [instantOf(day, hours[0]), Math.min(instantOf(day, hours[1]), now)];
  if (from >= to) return [];
  const running = configuration.campaigns.filter((campaign) => campaign.running);
  const turn = (at: number, on: boolean) => ({
    at,
    body: {
      kind: 'configurationChanged' as const,
      changes: { campaigns: running.map((campaign) => ({ ...campaign, running: on })) },
    },
  });
  return [turn(from, true), turn(to, false)];
}

/** What agents say how calls ended: of each campaign its outcomes by their weights, of other calls the usual ones. */
function outcomesOf(configuration: Configuration, campaigns: DemoCampaign[]) {
  const usual = { outcomes: usualOutcomes, weights: [0.8, 0.12, 0.06, 0] };
  const byCampaign = new Map(
    configuration.campaigns.map(({ id, name }) => {
      const demo = campaigns.find((campaign) => campaign.name === name);
      return [id, demo === undefined || demo.outcomes.length === 0 ? usual : demo] as const;
    }),
  );
  return (campaignId: string | null) => byCampaign.get(campaignId ?? '') ?? usual;
}

async function writeOutcomes(
  trx: Parameters<typeof writeCalls>[0],
  calls: RehearsedCall[],
  outcomesFor: (campaignId: string | null) => { outcomes: readonly Outcome[]; weights: readonly number[] },
  random: Random,
): Promise<{ facts: CallFacts; outcome: Outcome }[]> {
  const given: { facts: CallFacts; outcome: Outcome }[] = [];
  // The day was dialled before its outcomes were drawn: who was called again that day had not opted out.
  const lastDialled = new Map<string, number>();
  for (const { facts } of calls)
    if (facts.direction === 'outbound')
      lastDialled.set(facts.to, Math.max(facts.arrivedAt, lastDialled.get(facts.to) ?? 0));
  const rows = calls.flatMap(({ facts }) => {
    if (facts.personId === null || facts.result !== 'answered' || random() > outcomeGiven) return [];
    const { outcomes, weights } = outcomesFor(facts.campaignId);
    let left = random() * weights.reduce((sum, weight) => sum + weight, 0);
    const chosen = outcomes.find((_, index) => (left -= weights[index] ?? 0) < 0);
    if (chosen === undefined) return [];
    if (chosen.then === 'optOut' && lastDialled.get(facts.to) !== facts.arrivedAt) return [];
    given.push({ facts, outcome: chosen });
    return [
      {
        call_id: facts.callId,
        person_id: facts.personId,
        outcome: chosen.name,
        good: chosen.good,
        then_what: chosen.then,
        at: new Date(facts.endedAt),
      },
    ];
  });
  for (let i = 0; i < rows.length; i += 1_000) await trx('call_outcome').insert(rows.slice(i, i + 1_000));
  return given;
}

/** The instant of an hour of the local day; 24 is the next midnight. A reading that daylight saving skips is the next one. */
function instantOf(day: DateTime, hour: number): number {
  return hour === 24 ? day.plus({ days: 1 }).toMillis() : day.set({ hour }).toMillis();
}

/** A shift like `22:00-06:00` within one local day: what runs past midnight also opens the day. */
function shiftsOf(personId: string, shift: string, day: DateTime): Shift[] {
  const match = /^(\d\d):00-(\d\d):00$/.exec(shift);
  if (match === null) return [];
  const [from, to] = [Number(match[1]), Number(match[2])];
  const part = (begin: number, end: number): Shift => ({
    personId,
    from: instantOf(day, begin),
    to: instantOf(day, end),
  });
  return from < to ? [part(from, to)] : [part(0, to), part(from, 24)];
}
