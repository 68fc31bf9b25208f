import type { Knex } from 'knex';
import { nextExtension } from '@night-bell/core/model/extension';
import { freeLogin } from '@night-bell/core/model/login';
import type { PersonDraft } from '@night-bell/core/model/people.schema';
import { Problem } from '../../http/problems.ts';
import { oneTimeCode, type Seal } from '../../security/seal.ts';
import { extensionOwner } from '../../spine/extensions.ts';
import { announceChange, type Author, createItem, newId } from '../../spine/items.ts';
import { insertCode } from '../phones/codes.ts';
import { createSoftphone, setOutsideNumber } from '../phones/store.ts';
import { checkTeam } from '../teams/store.ts';
import { personSnapshot } from './store.ts';

/** Shown once, to whoever made the person. */
export interface NewPerson {
  id: string;
  name: string;
  login: string;
  extension: string;
  signInCode: string;
  account: string;
  registrationSecret: string;
  enrolmentCode: string;
}

/**
 * Makes people with login, extension, softphone account and voicemail box. Logins and extensions left open are
 * proposed; the same way for the form, pasted rows and the demo.
 */
export async function createPeople(
  trx: Knex.Transaction,
  seal: Seal,
  drafts: PersonDraft[],
  author: Author,
): Promise<NewPerson[]> {
  // One maker at a time: proposals must not collide.
  await trx.raw('lock table extension in share row exclusive mode');
  const takenExtensions = new Set<string>(await trx('extension').pluck('digits'));
  const takenLogins = new Set<string>(await trx('person').pluck('login'));
  const teamExtensions = await extensionsByTeam(trx);
  const made: NewPerson[] = [];
  for (const draft of drafts) {
    const login = draft.login ?? freeLogin(draft.name, takenLogins);
    const neighbours = teamExtensions.get(draft.teamId ?? '') ?? teamExtensions.get('') ?? [];
    const extension = draft.extension ?? nextExtension(takenExtensions, neighbours);
    if (takenLogins.has(login))
      throw Problem.field(
        '/login',
        `${login} is somebody else's login. Free: ${freeLogin(login, takenLogins)}.`,
        'taken',
      );
    if (takenExtensions.has(extension)) {
      const owner = await extensionOwner(trx, extension);
      throw Problem.field(
        '/extension',
        `${extension} is ${owner}. Next free: ${nextExtension(takenExtensions, [extension])}.`,
        'taken',
      );
    }
    if (draft.teamId != null) await checkTeam(trx, draft.teamId);
    takenLogins.add(login);
    takenExtensions.add(extension);
    for (const key of new Set(['', draft.teamId ?? '']))
      teamExtensions.set(key, [...(teamExtensions.get(key) ?? []), extension]);
    made.push(await createPerson(trx, seal, { ...draft, login, extension }, author));
  }
  await announceChange(trx);
  return made;
}

async function createPerson(
  trx: Knex.Transaction,
  seal: Seal,
  draft: PersonDraft & { login: string; extension: string },
  author: Author,
): Promise<NewPerson> {
  const id = newId();
  const person = {
    name: draft.name,
    login: draft.login,
    extension: draft.extension,
    role: draft.role ?? ('agent' as const),
    teamId: draft.teamId ?? null,
    callLimit: draft.callLimit ?? 1,
    ringSeconds: draft.ringSeconds ?? 20,
    signInWithPhone: draft.signInWithPhone ?? true,
    home: draft.home ?? false,
    outsideNumber: draft.outsideNumber ?? null,
  };
  const references = person.teamId === null ? [] : [{ to: person.teamId, how: 'team' }];
  await createItem(
    trx,
    { id, kind: 'person', name: person.name, after: personSnapshot(person), references },
    author,
  );
  await trx('person').insert({
    id,
    login: person.login,
    role: person.role,
    team_id: person.teamId,
    call_limit: person.callLimit,
    ring_seconds: person.ringSeconds,
    sign_in_with_phone: person.signInWithPhone,
  });
  await trx('extension').insert({ digits: person.extension, item_id: id });
  await createVoicemailBox(trx, { id: newId(), ownerId: id, name: `${person.name}'s voicemail` }, author);
  const owner = { personId: id, name: person.name };
  const phone = await createSoftphone(
    trx,
    seal,
    { ...owner, account: `s${person.extension}`, home: person.home },
    author,
  );
  if (person.outsideNumber !== null) await setOutsideNumber(trx, owner, person.outsideNumber, author);
  const signInCode = oneTimeCode();
  await insertCode(trx, seal, { purpose: 'sign-in', code: signInCode, personId: id });
  return { id, name: person.name, login: person.login, extension: person.extension, signInCode, ...phone };
}

export async function createVoicemailBox(
  trx: Knex.Transaction,
  box: { id: string; ownerId: string; name: string },
  author: Author,
): Promise<void> {
  // Owned, not used: the box goes with its owner and keeps nobody from being deactivated.
  await createItem(
    trx,
    { id: box.id, kind: 'voicemail', name: box.name, after: { ownerId: box.ownerId }, references: [] },
    author,
  );
  await trx('voicemail_box').insert({ id: box.id, owner_id: box.ownerId });
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
