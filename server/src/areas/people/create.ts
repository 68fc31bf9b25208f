import type { Knex } from 'knex';
import { deviceModel } from '@night-bell/core/phones/catalogue';
import type { PersonDraft } from '@night-bell/core/model/people.schema';
import type { PhoneDraft } from '@night-bell/core/model/phones.schema';
import { Proposals } from '@night-bell/core/model/proposals';
import { Problem } from '../../http/problems.ts';
import { oneTimeCode, type SecretBox } from '../../security/secret-box.ts';
import { extensionOwner } from '../../spine/extensions.ts';
import { announceChange, type Author, createItems, insertAll, newId } from '../../spine/items.ts';
import { insertCodes } from '../phones/codes.ts';
import { type PhoneSecret, newSecrets } from '../phones/secrets.ts';
import { createPhones, setOutsideNumber } from '../phones/store.ts';
import { createVoicemailBoxes } from '../../spine/voicemail-boxes.ts';
import { joinQueue } from '../queues/membership.ts';
import { checkTeam } from '../teams/store.ts';
import { checkNoAnswer, getPerson, personReferences, personSnapshot, writeAbilities } from './store.ts';

/** Shown once, to whoever made the person. */
export interface NewPerson {
  id: string;
  name: string;
  login: string;
  extension: string;
  signInCode: string;
  /** Null for who has no device that registers. */
  phone: PhoneSecret | null;
  /** The address the codes were sent to; null when they were not. */
  sentTo: string | null;
}

/**
 * Makes people with login, extension, phone account and voicemail box. Logins and extensions left open are
 * proposed; the same way for the form, pasted rows and the demo.
 */
export async function createPeople(
  trx: Knex.Transaction,
  seal: SecretBox,
  drafts: PersonDraft[],
  author: Author,
): Promise<NewPerson[]> {
  // One maker at a time: proposals must not collide.
  await trx.raw('lock table extension in share row exclusive mode');
  const takenExtensions = new Set<string>(await trx('extension').pluck('digits'));
  const takenLogins = new Set<string>(await trx('person').pluck('login'));
  const proposals = new Proposals(takenLogins, takenExtensions, await extensionsByTeam(trx));
  for (const teamId of new Set(drafts.map((draft) => draft.teamId)))
    if (teamId != null) await checkTeam(trx, teamId);
  const people: FullDraft[] = [];
  const queues = new Map<string, string[]>();
  for (const given of drafts) {
    const { draft, ownQueues } = await likeAnother(trx, given);
    const login = draft.login ?? proposals.login(draft.name);
    const extension = draft.extension ?? proposals.extension(draft.teamId ?? '');
    if (draft.login !== undefined && takenLogins.has(login))
      throw Problem.field(
        '/login',
        `${login} is somebody else's login. Free: ${proposals.freeLogin(login)}.`,
        'taken',
      );
    if (draft.extension !== undefined && takenExtensions.has(extension)) {
      const owner = await extensionOwner(trx, extension);
      throw Problem.field(
        '/extension',
        `${extension} is ${owner}. Next free: ${proposals.freeExtension(extension)}.`,
        'taken',
      );
    }
    takenLogins.add(login);
    takenExtensions.add(extension);
    proposals.reserve({ login });
    proposals.takeExtension(draft.teamId ?? '', extension);
    const person = fullDraft(draft, login, extension);
    await checkNoAnswer(trx, person.id, given.noAnswer ?? []);
    people.push(person);
    for (const queueId of ownQueues) queues.set(queueId, [...(queues.get(queueId) ?? []), person.id]);
  }
  const made = await insertPeople(trx, seal, people, author);
  for (const [queueId, members] of queues) await joinQueue(trx, queueId, members, author);
  await announceChange(trx);
  return made;
}

/** What is not said comes from the person this one is to be like, with the queues they are in by themselves. */
async function likeAnother(
  trx: Knex.Transaction,
  { likeId, ...draft }: PersonDraft,
): Promise<{ draft: PersonDraft; ownQueues: string[] }> {
  if (likeId === undefined) return { draft, ownQueues: [] };
  const { teamId, role, ...like } = await getPerson(trx, likeId);
  const { callLimit, ringSeconds, signInWithPhone, wrapUpSeconds, startAway } = like;
  const { answerBySelf, elsewhere, skills, looksAfter, phones, noAnswer } = like;
  const settings = {
    ...{ teamId, role, callLimit, ringSeconds, signInWithPhone, wrapUpSeconds, startAway },
    ...{ answerBySelf, elsewhere, skills, looksAfter, noAnswer },
    phoneModel: phones.find((phone) => phone.model !== null)?.model ?? null,
    home: phones.some((phone) => phone.model !== null && phone.home),
  };
  const ownQueues = await trx('queue_member as m')
    .join('item as i', 'i.id', 'm.queue_id')
    .where('m.member_id', likeId)
    .whereNull('i.retired_at')
    .pluck<string[]>('m.queue_id');
  return { draft: { ...settings, ...draft }, ownQueues };
}

type FullDraft = ReturnType<typeof fullDraft>;

function fullDraft(draft: PersonDraft, login: string, extension: string) {
  return {
    id: newId(),
    name: draft.name,
    login,
    extension,
    role: draft.role ?? ('agent' as const),
    teamId: draft.teamId ?? null,
    callLimit: draft.callLimit ?? 1,
    ringSeconds: draft.ringSeconds ?? 20,
    signInWithPhone: draft.signInWithPhone ?? true,
    wrapUpSeconds: draft.wrapUpSeconds ?? null,
    startAway: draft.startAway ?? false,
    answerBySelf: draft.answerBySelf ?? false,
    elsewhere: draft.elsewhere ?? ('warn' as const),
    skills: draft.skills ?? [],
    looksAfter: draft.looksAfter ?? [],
    mail: draft.mail ?? null,
    noAnswer: draft.noAnswer ?? [],
    outsideNumber: draft.outsideNumber ?? null,
    phoneDraft: phoneOf(draft),
  };
}

/** Who answers calls gets a softphone; administrators and auditors only when one is asked for. */
function phoneOf({ role = 'agent', phoneModel, home }: PersonDraft): PhoneDraft | null {
  const model =
    phoneModel === undefined ? (role === 'agent' || role === 'supervisor' ? 'softphone' : null) : phoneModel;
  if (model === null) return null;
  return {
    model,
    transport: deviceModel(model)!.transports.includes('tls') ? 'tls' : 'tcp',
    codecs: [],
    timeZone: null,
    numberId: null,
    dialTrunkId: null,
    home: home ?? false,
    emergencyAddress: null,
    lineKeys: [],
  };
}

async function insertPeople(
  trx: Knex.Transaction,
  seal: SecretBox,
  people: FullDraft[],
  author: Author,
): Promise<NewPerson[]> {
  const items = people.map(({ id, phoneDraft: _phone, ...person }) => ({
    id,
    kind: 'person' as const,
    name: person.name,
    after: personSnapshot(person),
    references: personReferences(person),
  }));
  await createItems(trx, items, author);
  await insertAll(
    trx,
    'person',
    people.map((person) => ({
      id: person.id,
      login: person.login,
      role: person.role,
      team_id: person.teamId,
      call_limit: person.callLimit,
      ring_seconds: person.ringSeconds,
      sign_in_with_phone: person.signInWithPhone,
      wrap_up_seconds: person.wrapUpSeconds,
      start_away: person.startAway,
      answer_by_self: person.answerBySelf,
      elsewhere: person.elsewhere,
      mail: person.mail,
      no_answer: JSON.stringify(person.noAnswer),
    })),
  );
  await writeAbilities(trx, people);
  await insertAll(
    trx,
    'extension',
    people.map(({ id, extension }) => ({ digits: extension, item_id: id })),
  );
  await createVoicemailBoxes(
    trx,
    people.map(({ id, name }) => ({ id: newId(), ownerId: id, name: `${name}'s voicemail` })),
    author,
  );
  const phones = await createPhones(
    trx,
    people.flatMap(({ id, name, extension, phoneDraft }) =>
      phoneDraft === null ? [] : [{ personId: id, name, account: `s${extension}`, draft: phoneDraft }],
    ),
    author,
  );
  const secrets = await newSecrets(trx, seal, phones);
  const secretOf = new Map(phones.map(({ personId }, index) => [personId, secrets[index]!]));
  for (const { id, name, outsideNumber } of people)
    if (outsideNumber !== null) await setOutsideNumber(trx, { personId: id, name }, outsideNumber, author);
  const codes = people.map(({ id }) => ({ purpose: 'sign-in' as const, code: oneTimeCode(), personId: id }));
  await insertCodes(trx, seal, codes);
  return people.map(({ id, name, login, extension }, index) => ({
    id,
    name,
    login,
    extension,
    signInCode: codes[index]!.code,
    phone: secretOf.get(id) ?? null,
    sentTo: null,
  }));
}

/** Extensions of people by team; the empty key holds everybody's, for those without a team and for new teams. */
export async function extensionsByTeam(database: Knex): Promise<Map<string, string[]>> {
  const rows = await database('extension as e')
    .join('person as p', 'p.id', 'e.item_id')
    .select<{ team_id: string | null; digits: string }[]>('p.team_id', 'e.digits');
  const byTeam = new Map<string, string[]>();
  for (const { team_id, digits } of rows) {
    byTeam.set('', [...(byTeam.get('') ?? []), digits]);
    if (team_id !== null) byTeam.set(team_id, [...(byTeam.get(team_id) ?? []), digits]);
  }
  return byTeam;
}
