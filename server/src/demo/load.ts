import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import pino from 'pino';
import type { Knex } from 'knex';
import { objectSchema } from '@night-bell/core/contracts/item';
import { listViewDraft, type ListViewDraft } from '@night-bell/core/contracts/list-views';
import { readAmount } from '@night-bell/core/model/amount';
import { type Codec, deviceModel, type ModelId, type Transport } from '@night-bell/core/phones/catalogue';
import type { Misbehaviour } from '@night-bell/core/devices/protocol';
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { numberDraft } from '@night-bell/core/model/numbers.schema';
import { personDraft } from '@night-bell/core/model/people.schema';
import { addEntries } from '../areas/balance/store.ts';
import type { Shop } from '../areas/number-shop/shop.ts';
import { holdNumbers, rentNumbers } from '../areas/number-shop/store.ts';
import { keepView } from '../areas/list-views/store.ts';
import { changeNumber, createNumber, getNumber, numberSnapshot } from '../areas/numbers/store.ts';
import { readAgentSettings, writeAgentSettings } from '../areas/agent-settings/store.ts';
import { createPeople, type NewPerson } from '../areas/people/create.ts';
import { changePhone, phonesByPerson, phoneSnapshot } from '../areas/phones/store.ts';
import { queueItem } from '../areas/queues/store.ts';
import { installation, setPassword } from '../areas/session/store.ts';
import { createConnection } from '../areas/records/store.ts';
import { sourceItem } from '../areas/sources/store.ts';
import { skillItem } from '../areas/skills/store.ts';
import { changeTeam, createTeam, listTeams } from '../areas/teams/store.ts';
import type { Database } from '../database/connection.ts';
import { RecordSync } from '../jobs/record-sync.ts';
import { Outgoing, placeOf } from '../outgoing/outgoing.ts';
import { realm } from '../live/registrar.ts';
import { hashPassword } from '../security/passwords.ts';
import type { Sounds } from '../sound/sounds.ts';
import type { SecretBox } from '../security/secret-box.ts';
import { authorOf } from '../spine/items.ts';
import { type DemoAnswering, type Door, loadAnswering, speakPrompts } from './answering.ts';
import { checked, destinationCalled, itemCalled } from './by-name.ts';
import { type DemoLinesOut, loadRules, loadTrunks } from './lines-out.ts';
import { type DemoCampaign, loadCampaigns } from './outbound.ts';
import type { RecordingFiles } from '../areas/recordings/files.ts';
import { loadTalks } from './past-talks.ts';
import { loadMessages } from './past-messages.ts';
import { rehearsePast } from './past.ts';
import { type DemoPerson, phoneFaults } from './person.ts';
import { loadLineKeys } from './line-keys.ts';
import { type DemoRingGroup, loadRingGroups } from './ring-groups.ts';
import { loadTexts } from './texts.ts';
import { loadSteps } from './when-nobody-lifts.ts';

interface DemoQueue {
  name: string;
  members: string[];
  turns?: { member: string; turn: number }[];
  joins?: { member: string; afterSeconds: number }[];
  skills?: { skill: string; minimum: number; relaxes?: object[] }[];
  whenTooLong?: string;
  whenNobody?: string | null;
  whenAllAway?: string;
  [other: string]: unknown;
}

export interface DemoPhones {
  enrol: string[];
  typed: {
    account: string;
    domain: string;
    secret: string;
    name: string;
    transport: Transport;
    model: ModelId;
    codecs: Codec[];
    misbehaves: Misbehaviour;
  }[];
}

/** Services outside that the demo asks. */
export interface DemoDoors {
  harbourBook: Door;
  sailingBot: Door;
}

interface DemoCompany {
  name: string;
  timeZone: string;
  password: string;
  seats: number;
  /** A reason of being away beside the usual ones. */
  awayToo: string;
  paidIn: string;
  /** Rented at the number shop, with what each is for. */
  rented: { number: string; label: string; destination: string; shownBy?: string }[];
  teamAddresses: Record<string, EmergencyAddress>;
  /** Ways to look at lists, kept for everybody by the administrator. */
  listViews: Omit<ListViewDraft, 'shared'>[];
}

interface DemoSource {
  name: string;
  kind: string;
  cost: string;
  costPer: string;
  startedDaysAgo: number;
}

interface DemoOutbound extends DemoLinesOut {
  campaigns: DemoCampaign[];
  optOuts: string[];
}

const files = {
  people: 'people.csv',
  queues: 'queues.json',
  numbers: 'numbers.csv',
  lineKeys: 'line-keys.csv',
  steps: 'when-nobody-lifts.csv',
  texts: 'texts.csv',
};

export function readRows<Row>(folder: string, file: string): Row[] {
  return parse(readFileSync(join(folder, file)), {
    columns: true,
    skip_empty_lines: true,
    trim: true,
  }) as Row[];
}

/**
 * Loads the demo company once, through the code that the screens use, and the last two days by rehearsal. Gives the
 * phones that the stand-ins are to play; none when it was loaded before.
 */
export async function ensureDemo(
  database: Database,
  seal: SecretBox,
  folder: string,
  { harbourBook, sailingBot }: DemoDoors,
  shop: Shop | null,
  sounds: Sounds | null = null,
  recordings: RecordingFiles | null = null,
): Promise<DemoPhones> {
  const none: DemoPhones = { enrol: [], typed: [] };
  const here = await installation(database);
  if (!here.demo && here.name !== '')
    throw new Error('The demo company was loaded only in part. Start over with npm run demo -- --fresh.');
  if (here.demo) {
    // Services of the demo may listen on other ports than the last time.
    await database('connection')
      .whereLike('address', 'http://127.0.0.1:%')
      .update({ address: `${harbourBook.address}/api`, link: pageLink(harbourBook) });
    await database('bot')
      .whereLike('address', 'http://127.0.0.1:%')
      .update({ address: `${sailingBot.address}/` });
    return none;
  }
  const people = readRows<DemoPerson>(folder, files.people);
  const read = <T>(file: string) => JSON.parse(readFileSync(join(folder, file), 'utf8')) as T;
  const company = read<DemoCompany>('company.json');
  const outbound = read<DemoOutbound>('outbound.json');
  const passwordHash = await hashPassword(company.password);
  const made = await database.transaction(async (trx) => {
    await trx('installation').update({ name: company.name, time_zone: company.timeZone });
    const author = authorOf(null);
    await loadTrunks(trx, seal, outbound.trunks, company.name);
    const created = await loadPeople(trx, seal, people);
    await loadTeamAddresses(trx, company.teamAddresses);
    const { awayReasons } = await readAgentSettings(trx);
    await writeAgentSettings(trx, { seats: company.seats, awayReasons: [...awayReasons, company.awayToo] });
    for (const [index, row] of people.entries()) {
      if (row.account === 'yes') await setPassword(trx, created[index]!.id, passwordHash);
      // Who is reached outside has no phone that registers and signs them in.
      if (row.outside !== '')
        await trx('exchange_inbox').insert({
          body: JSON.stringify({ kind: 'agentSignedIn', personId: created[index]!.id }),
        });
    }
    await createConnection(
      trx,
      seal,
      {
        name: 'Harbour Book',
        address: `${harbourBook.address}/api`,
        key: harbourBook.key,
        link: pageLink(harbourBook),
      },
      author,
    );
    return created;
  });
  // The demo's own customer system stands on this machine.
  const outgoing = new Outgoing(() => Promise.resolve(new Set([placeOf(new URL(harbourBook.address))])));
  const sync = new RecordSync(database, seal, outgoing, pino({ level: 'silent' }));
  await sync.readAll();
  await sync.close();
  await database.transaction(async (trx) => {
    await loadLineKeys(trx, readRows(folder, files.lineKeys));
    await loadRules(trx, outbound);
    await loadSteps(trx, readRows(folder, files.steps));
    await loadSources(trx, read<DemoSource[]>('sources.json'));
    await loadQueues(trx, read<DemoQueue[]>(files.queues));
    await loadRingGroups(trx, read<DemoRingGroup[]>('ring-groups.json'));
    await loadAnswering(trx, read<DemoAnswering>('answering.json'), seal, sailingBot);
    await loadNumbers(trx, readRows(folder, files.numbers));
    await loadCampaigns(trx, outbound.campaigns, outbound.optOuts);
  });
  if (sounds !== null) await speakPrompts(database, sounds);
  const administrator = made[people.findIndex((person) => person.role === 'administrator')]!;
  await loadMoney(database, company.paidIn, company.rented, shop, administrator.id);
  await database.transaction(async (trx) => {
    for (const view of company.listViews)
      await keepView(
        trx,
        administrator.id,
        checked(objectSchema(listViewDraft).validate({ ...view, shared: true })),
      );
  });
  await loadTexts(database, readRows(folder, files.texts), administrator.id);
  const { timeZone } = company;
  await rehearsePast(database, { folder, people, made, timeZone, campaigns: outbound.campaigns });
  await loadMessages(database, sounds, read<DemoAnswering>('answering.json').messages);
  if (sounds !== null && recordings !== null)
    await loadTalks(database, sounds, recordings, read<DemoAnswering>('answering.json').messages);
  await database('installation').update({ demo: true });
  const phones = made.flatMap((person, index) =>
    person.phone === null ? [] : [{ ...person.phone, name: person.name, row: people[index]! }],
  );
  return {
    enrol: phones.filter(({ row }) => row.phone === 'enrolled').map((phone) => phone.enrolmentCode),
    typed: phones.flatMap(({ account, registrationSecret: secret, name, row }) =>
      row.phone === 'enrolled' || row.phone === 'none' || row.device === ''
        ? []
        : [
            {
              ...{ account, domain: realm, secret, name, model: row.device, codecs: demoCodecs(row) },
              transport: transportOf(row.device),
              misbehaves: phoneFaults[row.phone],
            },
          ],
    ),
  };
}

/** The one phone that offers what it may not use is allowed something. */
function demoCodecs(row: DemoPerson): Codec[] {
  return row.phone === 'odd codecs' ? ['G722'] : [];
}

function transportOf(model: ModelId): Transport {
  return deviceModel(model)!.transports.includes('tls') ? 'tls' : 'tcp';
}

/** Money first, then what it buys at the shop; without a shop only the money. */
async function loadMoney(
  database: Database,
  paidIn: string,
  rented: DemoCompany['rented'],
  shop: Shop | null,
  byPerson: string,
): Promise<void> {
  await addEntries(database, [
    { kind: 'topUp', amount: readAmount(paidIn)!, what: 'Paid in', byPerson, once: 'demo' },
  ]);
  if (shop === null) return;
  const numbers = rented.map(({ number }) => number);
  await holdNumbers(database, shop, numbers, byPerson);
  await database.transaction(async (trx) => {
    const author = authorOf(byPerson);
    const ids = await rentNumbers(trx, shop, numbers, author);
    for (const id of ids) {
      const number = await getNumber(trx, id);
      const { label, destination, shownBy } = rented.find((each) => each.number === number.e164)!;
      const dialTeams = shownBy === undefined ? [] : [await itemCalled(trx, ['team'], shownBy)];
      const draft = { ...numberSnapshot(number), label, dialTeams };
      const to = destination === '' ? null : await destinationCalled(trx, destination);
      await changeNumber(trx, id, number.version, { ...draft, destination: to }, author);
    }
  });
}

async function loadTeamAddresses(
  trx: Knex.Transaction,
  addresses: Record<string, EmergencyAddress>,
): Promise<void> {
  for (const { id, version, name } of await listTeams(trx)) {
    const emergencyAddress = addresses[name];
    if (emergencyAddress !== undefined)
      await changeTeam(trx, id, version, { name, emergencyAddress }, authorOf(null));
  }
}

function pageLink(harbourBook: Door): string {
  return `${harbourBook.address}/pages/{{ record.id }}`;
}

async function loadSources(trx: Knex.Transaction, sources: DemoSource[]): Promise<void> {
  const author = authorOf(null);
  for (const { startedDaysAgo, ...source } of sources) {
    const fromDay = new Date(Date.now() - startedDaysAgo * 86_400_000).toISOString().slice(0, 10);
    await sourceItem.create(
      trx,
      checked(sourceItem.contract.draft.schema.validate({ ...source, fromDay })),
      author,
    );
  }
}

async function loadPeople(
  trx: Knex.Transaction,
  seal: SecretBox,
  people: DemoPerson[],
): Promise<NewPerson[]> {
  const author = authorOf(null);
  const teams = new Map<string, string>();
  for (const team of new Set(people.map((person) => person.team)))
    teams.set(team, await createTeam(trx, team, author));
  const trunk = await trx('item')
    .where({ kind: 'trunk', name: 'Mainland lines' })
    .first<{ id: string }>('id');
  const skills = new Map<string, string>();
  const skillsOf = ({ skills: text }: DemoPerson) =>
    [...text.matchAll(/([^;]+) (\d)/g)].map((match) => ({ name: match[1]!.trim(), level: Number(match[2]) }));
  for (const name of new Set(people.flatMap((person) => skillsOf(person).map((skill) => skill.name))))
    skills.set(name, await skillItem.create(trx, { name }, author));
  const drafts = people.map(({ name, team, role, home, device, outside, ...row }) =>
    checked(
      personDraft.validate({
        name,
        role,
        teamId: teams.get(team),
        skills: skillsOf({ name, team, role, home, device, outside, ...row }).map((skill) => ({
          skillId: skills.get(skill.name),
          level: skill.level,
        })),
        phoneModel: device === '' ? null : device,
        home: home === 'yes',
        outsideNumber: outside === '' ? null : { e164: outside, trunkId: trunk.id },
      }),
    ),
  );
  const made = await createPeople(trx, seal, drafts, author);
  for (const [index, row] of people.entries()) {
    const [phone] = (await phonesByPerson(trx, [made[index]!.id])).get(made[index]!.id) ?? [];
    if (phone === undefined || (row.phone !== 'odd codecs' && row.dialsOver === '')) continue;
    const dialTrunkId = row.dialsOver === '' ? null : await itemCalled(trx, ['trunk'], row.dialsOver);
    const codecs = row.phone === 'odd codecs' ? demoCodecs(row) : phone.codecs;
    await changePhone(trx, phone.id, phone.version, { ...phoneSnapshot(phone), codecs, dialTrunkId }, author);
  }
  return made;
}

async function loadQueues(trx: Knex.Transaction, queues: DemoQueue[]): Promise<void> {
  const author = authorOf(null);
  for (const queue of queues) {
    const { members, turns = [], joins = [], skills = [], ...rest } = queue;
    const ways: Record<string, unknown> = {};
    for (const way of ['whenTooLong', 'whenNobody', 'whenAllAway'] as const) {
      const to = queue[way];
      if (typeof to === 'string') ways[way] = await destinationCalled(trx, to);
    }
    const asked: object[] = [];
    for (const { skill, ...levels } of skills)
      asked.push({ skillId: await itemCalled(trx, ['skill'], skill), ...levels });
    const memberIds: string[] = [];
    for (const name of members) memberIds.push(await itemCalled(trx, ['team', 'person'], name));
    const request = {
      ...rest,
      members: memberIds,
      turns: turns.map(({ member, turn }) => ({ memberId: memberIds[members.indexOf(member)], turn })),
      joins: joins.map(({ member, afterSeconds }) => ({
        ...{ memberId: memberIds[members.indexOf(member)], afterSeconds },
      })),
      skills: asked,
      ...ways,
    };
    await queueItem.create(trx, checked(queueItem.contract.draft.schema.validate(request)), author);
  }
}

type NumberRow = Record<'number' | 'label' | 'destination' | 'source' | 'texts' | 'calls at once', string>;

async function loadNumbers(trx: Knex.Transaction, numbers: NumberRow[]): Promise<void> {
  const author = authorOf(null);
  for (const { number, label, destination, source, texts, 'calls at once': atOnce } of numbers) {
    const draft = {
      e164: number,
      label,
      destination: destination === '' ? null : await destinationCalled(trx, destination),
      sourceId: source === '' ? null : await itemCalled(trx, ['source'], source),
      textsTo: texts === '' ? null : await destinationCalled(trx, texts),
      ...{ mostCalls: atOnce === '' ? null : Number(atOnce), priority: 0 },
    };
    await createNumber(trx, checked(numberDraft.validate(draft)), author);
  }
}
