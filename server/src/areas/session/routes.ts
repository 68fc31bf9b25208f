import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { companyReading, type Locale, ownReading, type OwnReading } from '@night-bell/core/contracts/reading';
import { looksAfterOf } from '../people/looks-after.ts';
import { name as nameField, login as loginField, ownPassword } from '@night-bell/core/model/fields.schema';
import { passwordFault } from '@night-bell/core/model/passwords';
import { isZone } from '@night-bell/core/hours/zone';
import { editors, type Role, roles } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { nothing, route, type Route, signedIn } from '../../http/route.ts';
import { isCommonPassword } from '../../security/common-passwords.ts';
import { hashPassword, passwordMatches } from '../../security/passwords.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { createPeople } from '../people/create.ts';
import { getPerson } from '../people/store.ts';
import type { Sessions, SignInPlace } from '../../security/sessions.ts';
import {
  findByLogin,
  hasAdministrator,
  installation,
  readingOf,
  setPassword,
  type SignInRow,
  useCode,
} from './store.ts';

interface SessionView {
  installation: {
    name: string;
    timeZone: string;
    locale: Locale | null;
    demo: boolean;
    needsFirstAdministrator: boolean;
  };
  person: { id: string; name: string; role: Role; looksAfter: string[] } | null;
  /** How they read dates, times and numbers; null for as the company does. */
  reading: OwnReading;
  token: string | null;
  mustSetPassword: boolean;
  /** Where else this person was active in the last minutes, when they want to be warned of it. */
  elsewhere: { browser: string; seenAt: string }[];
}

const sessionView = Joi.object<SessionView>({
  installation: Joi.object({
    name: Joi.string().allow('').required(),
    timeZone: Joi.string().required(),
    locale: Joi.string().allow(null).required() as never,
    demo: Joi.boolean().required(),
    needsFirstAdministrator: Joi.boolean().required(),
  }).required(),
  person: Joi.object({
    id: Joi.string().required(),
    name: Joi.string().required(),
    role: Joi.string()
      .valid(...roles)
      .required(),
    looksAfter: Joi.array().items(Joi.string()).required(),
  })
    .allow(null)
    .required(),
  reading: ownReading.schema.required() as never,
  token: Joi.string().allow(null).required(),
  mustSetPassword: Joi.boolean().required(),
  elsewhere: Joi.array()
    .items(Joi.object({ browser: Joi.string().allow('').required(), seenAt: Joi.string().required() }))
    .required(),
});

export function sessionRoutes({ database, sessions, seal, throttle }: Services): Route[] {
  const view = async (http: Parameters<typeof sessions.find>[0]): Promise<SessionView> => {
    const found = await sessions.find(http);
    // A script is nobody who signed in.
    const session = found?.script === undefined ? found : null;
    const here = await installation(database);
    return {
      installation: {
        name: here.name,
        timeZone: here.time_zone,
        locale: here.locale,
        demo: here.demo,
        needsFirstAdministrator: session === null && !(await hasAdministrator(database)),
      },
      person:
        session === null
          ? null
          : {
              ...{ id: session.personId, name: session.name, role: session.role },
              looksAfter: await looksAfterOf(database, session.personId),
            },
      reading:
        session === null ? { locale: null, timeZone: null } : await readingOf(database, session.personId),
      token: session?.csrf ?? null,
      mustSetPassword: session?.mustSetPassword ?? false,
      elsewhere:
        session === null
          ? []
          : (await seenLately(sessions, session.personId, session.sessionHash)).map(
              ({ browser, seenAt }) => ({ browser, seenAt }),
            ),
    };
  };

  /** Signed in elsewhere and seen there lately: that goes on, ends, or keeps them out here, as their settings say. */
  const settleElsewhere = async (person: SignInRow): Promise<void> => {
    if (person.elsewhere === 'warn') return;
    if (person.elsewhere === 'takeOver') return sessions.endAllOf(person.id);
    const [place] = await seenLately(sessions, person.id);
    if (place !== undefined)
      throw new Problem(
        'notNow',
        `You are signed in elsewhere${place.browser === '' ? '' : `, ${place.browser}`}, and may be at one place only. Sign out there, or ask an administrator to end that sign-in.`,
      );
  };

  return [
    route({
      method: 'GET',
      path: '/api/session',
      area: 'Sign-in',
      summary: 'Who is signed in, and the token that changes need',
      who: 'anybody',
      reply: sessionView,
      errors: [],
      handle: ({ http }) => view(http),
    }),
    route({
      method: 'POST',
      path: '/api/session',
      area: 'Sign-in',
      summary: 'Sign in with a password, or the first time with the one-time code',
      who: 'anybody',
      perMinute: 300,
      body: Joi.object<{ login: string; password: string }>({
        login: Joi.string()
          .trim()
          .lowercase()
          .max(60)
          .required()
          .messages({ 'string.empty': 'Type your login.' }),
        password: Joi.string()
          .max(200)
          .required()
          .messages({ 'string.empty': 'Type your password or one-time code.' }),
      }),
      reply: nothing.allow(null),
      errors: ['wrongSignIn', 'notNow'],
      handle: async ({ body, http, reply }) => {
        const key = throttle.keyOf(http, body.login);
        const person = await findByLogin(database, body.login);
        // Nobody guesses a one-time code, so no guesses of others keep somebody out who has one.
        const byCode =
          person !== undefined && (await useCode(database, seal, 'sign-in', body.password, person.id));
        if (!byCode) await throttle.refuseIfBlocked(key);
        const matches = byCode || (await passwordMatches(person?.password_hash ?? null, body.password));
        if (person === undefined || !matches) {
          await throttle.wrong(key, body.login);
          throw new Problem(
            'wrongSignIn',
            'Login and password do not match. An administrator can give you a new one-time code.',
          );
        }
        await throttle.right(key);
        throttle.remember(http, reply, body.login);
        await settleElsewhere(person);
        await sessions.begin(reply, person.id, byCode);
        return null;
      },
    }),
    route({
      method: 'PUT',
      path: '/api/session/password',
      area: 'Sign-in',
      summary: 'Set an own password; ends all other sign-ins of this person',
      who: 'newcomer',
      perMinute: 20,
      body: Joi.object<{ password: string; present?: string }>({
        password: ownPassword.required(),
        present: Joi.string().max(200),
      }),
      reply: nothing.allow(null),
      errors: ['wrongSignIn'],
      handle: async ({ body, caller, http, reply }) => {
        const { personId, sessionHash } = signedIn(caller);
        const session = await sessions.find(http);
        const { login } = await getPerson(database, personId);
        if (session?.mustSetPassword !== true) {
          const key = `present:${personId}`;
          await throttle.refuseIfBlocked(key);
          const row = await database('credential')
            .where({ person_id: personId })
            .first<{ password_hash: string } | undefined>();
          if (!(await passwordMatches(row?.password_hash ?? null, body.present ?? ''))) {
            await throttle.wrong(key, login);
            throw Problem.field('/present', 'That is not your present password.', 'wrongSignIn');
          }
          await throttle.right(key);
        }
        refuseBadPassword(body.password, login);
        await setPassword(database, personId, await hashPassword(body.password));
        await sessions.endAllOf(personId);
        await sessions.end(reply, sessionHash);
        await sessions.begin(reply, personId, false);
        return null;
      },
    }),
    route({
      method: 'DELETE',
      path: '/api/session',
      area: 'Sign-in',
      summary: 'Sign out',
      who: 'newcomer',
      reply: nothing.allow(null),
      errors: [],
      handle: async ({ caller, reply }) => {
        await sessions.end(reply, signedIn(caller).sessionHash);
        return null;
      },
    }),
    route({
      method: 'PUT',
      path: '/api/session/reading',
      area: 'Sign-in',
      summary:
        'How one reads dates, times and numbers, and by the clock of which zone; null for as the company',
      who: roles,
      body: objectSchema(ownReading),
      reply: sessionView,
      errors: [],
      handle: async ({ body, caller, http }) => {
        await database('person')
          .where({ id: signedIn(caller).personId })
          .update({ locale: body.locale, reading_zone: body.timeZone });
        return view(http);
      },
    }),
    route({
      method: 'PUT',
      path: '/api/installation/reading',
      area: 'Sign-in',
      summary: 'How the company writes dates, times and numbers; null for the house’s own forms',
      who: editors,
      body: objectSchema(companyReading),
      reply: sessionView,
      errors: [],
      handle: async ({ body, http }) => {
        await database('installation').update({ locale: body.locale });
        return view(http);
      },
    }),
    route({
      method: 'POST',
      path: '/api/installation',
      area: 'Sign-in',
      summary: 'Make the first administrator of an empty installation, with the code printed in the terminal',
      who: 'anybody',
      perMinute: 20,
      body: Joi.object<{
        code: string;
        company: string;
        timeZone: string;
        name: string;
        login: string;
        password: string;
      }>({
        code: Joi.string()
          .max(60)
          .required()
          .messages({ 'string.empty': 'Type the code that the terminal shows.' }),
        company: nameField.required(),
        timeZone: Joi.string()
          .max(60)
          .required()
          .custom((zone: string, helpers) =>
            isZone(zone) ? zone : helpers.message({ custom: 'Unknown time zone.' }),
          ),
        name: nameField.required(),
        login: loginField.required(),
        password: ownPassword.required(),
      }),
      reply: nothing.allow(null),
      errors: ['alreadySetUp', 'wrongSignIn', 'taken'],
      handle: async ({ body, reply }) => {
        if (await hasAdministrator(database)) {
          throw new Problem(
            'alreadySetUp',
            'This installation already has an administrator. Sign in instead.',
          );
        }
        refuseBadPassword(body.password, body.login);
        const passwordHash = await hashPassword(body.password);
        const made = await database.transaction(async (trx) => {
          if (!(await useCode(trx, seal, 'first-administrator', body.code, null))) return null;
          await trx('installation').update({ name: body.company, time_zone: body.timeZone });
          const [created] = await createPeople(
            trx,
            seal,
            [{ name: body.name, login: body.login, role: 'administrator' }],
            authorOf(null),
          );
          await setPassword(trx, created!.id, passwordHash);
          return created!.id;
        });
        if (made === null) {
          throw Problem.field(
            '/code',
            'That is not the code in the terminal, or it was used.',
            'wrongSignIn',
          );
        }
        await sessions.begin(reply, made, false);
        return null;
      },
    }),
  ];
}

/** Length is checked with the form; what others try first is refused here. */
function refuseBadPassword(password: string, login: string): void {
  const fault = passwordFault(password, login, isCommonPassword);
  if (fault !== null) throw Problem.field('/password', fault);
}

const latelyMs = 15 * 60_000;

async function seenLately(sessions: Sessions, personId: string, except?: string): Promise<SignInPlace[]> {
  const places = await sessions.of(personId, except);
  return places.filter((place) => Date.now() - Date.parse(place.seenAt) < latelyMs);
}
