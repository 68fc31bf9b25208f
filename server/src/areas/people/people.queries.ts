import type { Knex } from 'knex';
import type { AgentDisplayState } from '@night-bell/core/distribute/candidates';
import { displayState } from '@night-bell/core/exchange/agents/display-state';
import type { State } from '@night-bell/core/exchange/kernel/state';
import type { Role } from '@night-bell/core/model/roles';
import type { SkillLevel } from '@night-bell/core/model/people.schema';
import { type Page, type PageQuery, stretchOf } from '../../http/paging.ts';
import {
  countListed,
  type Group,
  inOrderOf,
  type Narrowing,
  type Order,
  pageOfIds,
} from '../../spine/listing.ts';

/** A person as lists show them; the whole of one is read by id. */
export interface PersonRow {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  login: string;
  role: Role;
  mail: string | null;
  extension: string;
  teamId: string | null;
  teamName: string | null;
  skills: SkillLevel[];
  /** What they ring for, by their own name or their team's. */
  queues: { id: string; name: string }[];
}

export const peopleOrders = ['extension', 'name', 'team', 'state', 'phone'] as const;
export type PeopleOrder = (typeof peopleOrders)[number];

/** In which order a list sorted by them shows states: who works first. */
export const stateOrder = ['talking', 'ringing', 'available', 'wrappingUp', 'away', 'signedOut'] as const;
export const phoneOrder = ['registered', 'outside', 'unregistered', 'refused', 'none'] as const;
export type PhoneState = (typeof phoneOrder)[number];

export interface PeopleQuery extends PageQuery {
  search?: string;
  withRetired?: boolean;
  teamId?: string;
  queueId?: string;
  skillId?: string;
  state?: AgentDisplayState;
  phone?: PhoneState;
  /** Their outside number goes over this trunk. */
  reachedOver?: string;
  ids?: string[];
  sort: PeopleOrder;
  down: boolean;
}

/** One stretch of the people that fit. `state` is only asked for what changes from one moment to the next. */
export async function pageOfPeople(
  database: Knex,
  asked: PeopleQuery,
  state: () => Readonly<State>,
): Promise<Page<PersonRow>> {
  const narrowing = narrowingOf(asked, state);
  const order = await orderOf(database, asked, state);
  const { ids, next } = await pageOfIds(database, narrowing, order, stretchOf(asked));
  return {
    rows: await personRows(database, ids),
    next,
    total: asked.total ? await countListed(database, narrowing) : null,
  };
}

const membersOfQueue = {
  sql: `select m.member_id from queue_member m where m.queue_id = ?
    union select p.id from person p where p.team_id = any(array(
      select m.member_id from queue_member m where m.queue_id = ?))`,
  of: (queueId: string) => [queueId, queueId],
};

/** Whether it asks for what only the exchange knows. */
export function needsState({ state, phone, sort }: PeopleQuery): boolean {
  return state !== undefined || phone !== undefined || sort === 'state' || sort === 'phone';
}

export function narrowingOf(asked: PeopleQuery, state: () => Readonly<State>): Narrowing {
  const { search, withRetired, teamId, queueId, skillId, ids } = asked;
  const within: { sql: string; values: unknown[] }[] = [];
  if (queueId !== undefined) within.push({ sql: membersOfQueue.sql, values: membersOfQueue.of(queueId) });
  if (skillId !== undefined)
    within.push({ sql: 'select k.person_id from person_skill k where k.skill_id = ?', values: [skillId] });
  if (asked.reachedOver !== undefined)
    within.push({
      sql: `select f.person_id from phone f join item x on x.id = f.id
        where f.kind = 'outside' and f.trunk_id = ? and x.retired_at is null`,
      values: [asked.reachedOver],
    });
  for (const [now, wanted] of [
    [agentStates, asked.state],
    [phoneStates, asked.phone],
  ] as const)
    if (wanted !== undefined)
      within.push({
        sql: 'select unnest(?::uuid[])',
        values: [now(state()).get(wanted) ?? []],
      });
  return { kind: 'person', search, withRetired, teamId, ids, within };
}

async function orderOf(
  database: Knex,
  { sort, down }: PeopleQuery,
  state: () => Readonly<State>,
): Promise<Order> {
  const turned = <T>(all: T[]): T[] => (down ? all.reverse() : all);
  if (sort === 'team') {
    const teams = await database('listed')
      .where({ kind: 'team' })
      .orderBy(['name', 'id'])
      .pluck<string[]>('id');
    const groups: Group[] = [...teams.map((id) => ({ key: id, teamId: id })), { key: 'none', teamId: null }];
    return { by: 'name', down, groups: turned(groups) };
  }
  if (sort === 'state')
    return { by: 'name', down, groups: turned(groupsOf(agentStates(state()), stateOrder)) };
  if (sort === 'phone')
    return { by: 'name', down, groups: turned(groupsOf(phoneStates(state()), phoneOrder)) };
  return { by: sort === 'extension' ? 'key' : 'name', down };
}

/** The last of the order is also that of everybody the exchange does not know. */
function groupsOf(byState: Map<string, string[]>, order: readonly string[]): Group[] {
  const before = order.slice(0, -1);
  return [
    ...before.map((key) => ({ key, ids: byState.get(key) ?? [] })),
    { key: order.at(-1)!, allBut: before.flatMap((key) => byState.get(key) ?? []) },
  ];
}

function agentStates(state: Readonly<State>): Map<string, string[]> {
  return grouped(state, (agent) => displayState(agent, state.now).state);
}

function phoneStates(state: Readonly<State>): Map<string, string[]> {
  return grouped(state, (agent) => agent.phone.state);
}

type Agent = State['agents'] extends Map<string, infer A> ? A : never;

function grouped(state: Readonly<State>, of: (agent: Agent) => string): Map<string, string[]> {
  const groups = new Map<string, string[]>();
  for (const [id, agent] of state.agents) {
    const key = of(agent);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [id]);
    else group.push(id);
  }
  return groups;
}

/** In the order of the ids; who is gone is left out. */
export async function personRows(database: Knex, ids: readonly string[]): Promise<PersonRow[]> {
  const people = database('person as p')
    .join('item as i', 'i.id', 'p.id')
    .leftJoin('item as t', 't.id', 'p.team_id')
    .leftJoin('extension as e', 'e.item_id', 'p.id')
    .whereRaw('p.id = any(?::uuid[])', [[...ids]])
    .select<Omit<PersonRow, 'skills' | 'queues'>[]>(
      'p.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'p.login',
      'p.role',
      'p.mail',
      database.raw(`coalesce(e.digits, '') as extension`),
      'p.team_id as teamId',
      't.name as teamName',
    );
  const ofSkills = database('person_skill as k')
    .join('item as n', 'n.id', 'k.skill_id')
    .whereRaw('k.person_id = any(?::uuid[])', [[...ids]])
    .orderBy([{ column: 'n.name' }, { column: 'n.id' }])
    .select<{ personId: string; skillId: string; level: number }[]>(
      'k.person_id as personId',
      'k.skill_id as skillId',
      'k.level',
    );
  const [rows, skills] = await Promise.all([people, ofSkills]);
  const teams = new Set(rows.flatMap(({ teamId }) => teamId ?? []));
  const queues = await queuesByMember(database, [...ids, ...teams]);
  return inOrderOf(ids, rows).map((row) => ({
    ...row,
    skills: skills
      .filter(({ personId }) => personId === row.id)
      .map(({ skillId, level }) => ({ skillId, level })),
    queues: row.retired ? [] : [...(queues.get(row.id) ?? []), ...(queues.get(row.teamId ?? '') ?? [])],
  }));
}

/** Queues by the member, a person or a team, that is in them. */
export async function queuesByMember(
  database: Knex,
  members: readonly string[] | null,
): Promise<Map<string, { id: string; name: string }[]>> {
  const rows = await database('queue_member as m')
    .join('item as i', 'i.id', 'm.queue_id')
    .whereNull('i.retired_at')
    .modify((query) => {
      if (members !== null) void query.whereRaw('m.member_id = any(?::uuid[])', [[...members]]);
    })
    .orderBy([{ column: 'i.name' }, { column: 'i.id' }])
    .select<{ member_id: string; id: string; name: string }[]>('m.member_id', 'i.id', 'i.name');
  const byMember = new Map<string, { id: string; name: string }[]>();
  for (const { member_id, id, name } of rows) {
    const queues = byMember.get(member_id);
    if (queues === undefined) byMember.set(member_id, [{ id, name }]);
    else queues.push({ id, name });
  }
  return byMember;
}
