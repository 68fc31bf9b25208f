import type { Knex } from 'knex';
import { DialPlan } from '@night-bell/core/dialling/rules';
import { ruleWarnings } from '@night-bell/core/dialling/warnings';
import type { Exchange } from '@night-bell/core/exchange/exchange';
import { findings } from '@night-bell/core/readiness/findings';
import { unseenSetAside } from '../../live/set-aside.queries.ts';
import { campaignLive } from '../../live/view.ts';
import { balanceState } from '../balance/store.ts';
import { callTotals, meanTalks, usualTalkMs } from '../calls/calls.queries.ts';
import { campaignItem } from '../campaigns/store.ts';
import { listNumbers } from '../numbers/store.ts';
import { listPeople } from '../people/store.ts';
import { reachOf } from '@night-bell/core/exchange/groups/members';
import { lackingSkills } from '@night-bell/core/exchange/queues/lacking';
import type { AnsweringInput } from '@night-bell/core/readiness/answering';
import { hoursItem } from '../hours/store.ts';
import { foundIn, planItem } from '../plans/store.ts';
import { boxesForReadiness } from '../voicemail/readiness.ts';
import { forwardLoops } from '../outside/store.ts';
import { promptsOfAnother } from '../prompts/readiness.ts';
import { promptItem } from '../prompts/store.ts';
import { listQueues } from '../queues/store.ts';
import { listConnections } from '../records/store.ts';
import { ruleItem } from '../rules/store.ts';
import { sourceItem } from '../sources/store.ts';
import { listTeams } from '../teams/store.ts';
import { trunkItem } from '../trunks/store.ts';
import { tryNumbers } from './route-preview.ts';

const dayMs = 24 * 3_600_000;

/** What only the host knows of the providers: which are reached, and what is wrong with a line, by its trunk. */
export interface LinesNow {
  reached: string[];
  faults: Record<string, string>;
}

/**
 * How far the set-up is: counts, findings, and what a caller to each number would meet now. Reads every list there is.
 *
 * @param lines null on a server that does not host: it takes all providers to be reached
 */
export async function homeView(database: Knex, exchange: Exchange, lines: LinesNow | null) {
  const state = exchange.view();
  const people = (await listPeople(database)).filter((person) => !person.retired);
  const queues = (await listQueues(database)).filter((queue) => !queue.retired);
  const numbers = await listNumbers(database);
  const trunks = (await trunkItem.list(database))
    .filter((trunk) => !trunk.retired)
    // Only the host knows which providers are reached; another server takes them to be.
    .map((trunk) => {
      const reached = lines === null || lines.reached.includes(trunk.host);
      const until = trunk.certificate === null ? null : Date.parse(trunk.certificate.until);
      return {
        ...trunk,
        reached,
        fault: lines?.faults[trunk.id] ?? '',
        certificateDays: until === null ? null : Math.floor((until - Date.now()) / dayMs),
      };
    });
  const rules = (await ruleItem.list(database)).filter((rule) => !rule.retired);
  const doubts = ruleWarnings(new DialPlan(rules));
  const ruleNames = new Map(rules.map((rule) => [rule.id, rule.name]));
  const teamAddresses = new Set(
    (await listTeams(database)).filter((team) => team.emergencyAddress !== null).map((team) => team.id),
  );
  const sharedSecrets = new Set(
    await database('phone as f')
      .whereExists(
        database('phone as o')
          .whereRaw('o.secret_mark = f.secret_mark and o.id <> f.id')
          .select(database.raw('1')),
      )
      .pluck<string[]>('f.id'),
  );
  const campaigns = (await campaignItem.list(database)).filter((campaign) => !campaign.retired);
  const connections = (await listConnections(database)).filter((each) => !each.retired);
  const sources = (await sourceItem.list(database)).filter((source) => !source.retired);
  const retired = new Set<string>(await database('item').whereNotNull('retired_at').pluck('id'));
  const agents = [...state.agents.values()];
  const money = await balanceState(database);
  const totals = await callTotals(database, {
    from: new Date(Date.now() - dayMs),
    direction: 'inbound',
    limit: 0,
  });
  const setAside = await unseenSetAside(database);
  const talks = await meanTalks(database);
  const answering = await answeringNow(database, state.storageFull);
  const calls = totals.reduce((sum, each) => sum + each.count, 0);
  return {
    counts: {
      people: people.length,
      agents: people.filter((person) => person.role === 'agent').length,
      registered: agents.filter(
        (agent) => agent.phone.state === 'registered' || agent.phone.state === 'outside',
      ).length,
      signedIn: agents.filter((agent) => agent.presence !== 'signedOut').length,
      queues: queues.length,
      staffedQueues: [...state.queues.values()].filter((queue) => queue.signedIn > 0).length,
      numbers: numbers.length,
      plans: answering.plans.length,
      publishedPlans: answering.plans.filter((plan) => plan.published).length,
      routedNumbers: numbers.filter((number) => number.destination !== null).length,
      trunks: trunks.length,
      reachedTrunks: trunks.filter((trunk) => trunk.reached && trunk.fault === '').length,
      rules: rules.length,
      soundRules: rules.length - new Set(doubts.map((doubt) => doubt.ruleId)).size,
      records: connections.reduce((sum, each) => sum + each.records, 0),
      connections: connections.length,
      readConnections: connections.filter((each) => each.fault === null).length,
      sources: sources.length,
      numberedSources: sources.filter((source) => source.numbers.length > 0).length,
      campaigns: campaigns.length,
      runningCampaigns: campaigns.filter((campaign) => campaign.status === 'running').length,
      calls,
      callsReachedSomebody: totals.find((each) => each.result === 'answered')?.count ?? 0,
    },
    findings: findings({
      people: people.map((person) => {
        const agent = state.agents.get(person.id);
        return {
          id: person.id,
          name: person.name,
          takesCalls: person.role === 'agent',
          presence: agent?.presence ?? 'signedOut',
          phone: agent?.phone ?? { state: 'none' },
        };
      }),
      queues: queues.map((queue) => {
        const now = state.queues.get(queue.id);
        const waiting = now?.waitingList.size ?? 0;
        return {
          ...queue,
          signedIn: now?.signedIn ?? 0,
          waiting,
          lacking: now === undefined ? [] : lackingSkills(now),
        };
      }),
      ringGroups: [...state.ringGroups.values()].map((group) => ({
        ...{ id: group.item.id, name: group.item.name },
        ...reachOf(state, group),
      })),
      numbers: numbers.map(({ destination, ...number }) => ({
        ...number,
        destination,
        destinationRetired: destination !== null && destination.kind !== 'end' && retired.has(destination.id),
        reports: number.reports.length,
      })),
      trunks,
      rules: doubts.map(({ kind, ruleId }) => ({
        id: ruleId,
        name: ruleNames.get(ruleId) ?? '',
        doubt: kind,
      })),
      phones: people.flatMap(({ id: personId, name: personName, teamId, phones }) =>
        phones
          .filter((phone) => phone.model !== null)
          .map((phone) => ({
            personId,
            personName,
            hasEmergencyAddress:
              phone.emergencyAddress !== null || (!phone.home && teamAddresses.has(teamId ?? '')),
            // Without numbers held there is nothing to show.
            hasCallerId: phone.numberId !== null || numbers.length === 0,
            secretShared: sharedSecrets.has(phone.id),
          })),
      ),
      balance: money,
      seats: { rented: state.settings.seats, used: state.signedIn },
      campaigns: campaigns.map((campaign) => {
        const now = campaignLive(state, campaign.id);
        return {
          id: campaign.id,
          name: campaign.name,
          status: campaign.status,
          hasQueue: campaign.queueId !== null,
          hasTrunk: campaign.trunkId !== null,
          hasCallerId: campaign.numberId !== null,
          contacts: campaign.contacts,
          abandonRate: Math.max(now?.rate ?? 0, now?.rateToday ?? 0),
          abandonLimit: campaign.abandonPercent / 100,
          agents: state.queues.get(campaign.queueId ?? '')?.signedIn ?? 0,
        };
      }),
      connections,
      ...answering,
      setAside,
      sources: sources.map(({ id, name, numbers: carrying }) => ({
        id,
        name,
        numbers: carrying.length,
      })),
    }),
    ifSomeoneRang: await tryNumbers(exchange, numbers, (queueId) => talks.get(queueId ?? '') ?? usualTalkMs),
    since: await recentChanges(database),
  };
}

/** Sets of opening hours that something goes by, as readiness looks at them. */
async function hoursInUse(database: Knex): Promise<AnsweringInput['hours']> {
  const sets = (await hoursItem.list(database)).filter(({ retired, uses }) => !retired && uses > 0);
  return sets.map(({ id, name, weekly, days, nextDay }) => ({
    ...{ id, name },
    neverOpen: [...weekly, ...days.map(({ ranges }) => ranges)].every((ranges) => ranges.length === 0),
    lastDay: nextDay === null ? (days.at(-1)?.date ?? null) : null,
  }));
}

/** Plans and the prompts they play, as readiness looks at them. */
async function answeringNow(database: Knex, storageFull: boolean) {
  const plans = (await planItem.list(database)).filter((plan) => !plan.retired);
  const library = (await promptItem.list(database)).filter((prompt) => !prompt.retired);
  const prompts = library.filter((prompt) => prompt.uses > 0);
  const inputs = [];
  for (const { id, name, live, numbers } of plans)
    inputs.push({
      ...{ id, name, published: live !== null, numbers: numbers.length },
      found: live === null ? [] : await foundIn(database, id, live),
    });
  return {
    plans: inputs,
    hours: await hoursInUse(database),
    prompts: prompts.map(({ id, name, publishedWords, heard }) => ({
      ...{ id, name, published: publishedWords !== null },
      hasSound: heard !== null,
      clipping: heard?.clipping === true,
    })),
    ofAnother: await promptsOfAnother(database),
    leaveBehinds: library.filter(({ kind }) => kind === 'leaveBehind'),
    forwardLoops: await forwardLoops(database),
    boxes: await boxesForReadiness(database),
    storageFull,
  };
}

const setUpChanges = [
  'created',
  'changed',
  'retired',
  'reactivated',
  'storm',
  'stormOver',
  'published',
  'spoken',
  'recorded',
  'brought',
];

async function recentChanges(database: Knex) {
  const rows = await database('change as c')
    .join('item as i', 'i.id', 'c.item_id')
    .leftJoin('item as p', 'p.id', 'c.by_person')
    .whereIn('i.kind', [
      ...['person', 'queue', 'number', 'team'],
      ...['trunk', 'campaign', 'source', 'connection', 'rule', 'skill', 'outside', 'phone'],
      ...['plan', 'prompt', 'hours', 'voicemail'],
    ])
    // Who heard what stands in the history of a box, not among what was set up.
    .whereIn('c.what', setUpChanges)
    .whereNotNull('c.by_person')
    .orderBy('c.id', 'desc')
    .limit(6)
    .select<{ at: Date; by: string | null; what: string; kind: string; name: string }[]>(
      'c.at',
      'p.name as by',
      'c.what',
      'i.kind',
      'i.name',
    );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}
