import Joi from 'joi';
import {
  type CheckedPerson,
  type ListColumn,
  mostPeople,
  personColumns,
  type PersonRow,
} from '@night-bell/core/model/people-list';
import { editors } from '@night-bell/core/model/roles';
import { route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { requirePostOffice, sendCodes } from './code-letters.ts';
import { checkList, createList, readPeople } from './list.ts';
import { newPerson } from './schemas.ts';

const area = 'People';
const bodyLimit = 8 * 1024 * 1024;

const cell = Joi.string().allow('').max(200).required().messages({ 'string.max': 'At most 200 characters.' });
const open = cell.optional().default('');
const row = Joi.object<PersonRow, true>({
  ...{ name: cell, team: cell, role: cell, login: cell, extension: cell, phone: open, mail: open },
});
const rows = Joi.array()
  .items(row)
  .min(1)
  .max(mostPeople)
  .required()
  .messages({
    'array.min': 'There is no row.',
    'array.max': `At most ${mostPeople.toLocaleString('en')} people are made at once. Split the list.`,
  });
const column = Joi.string()
  .valid(...personColumns, 'firstName', 'lastName')
  .allow(null);

/** Many people at once: texts become rows, rows are checked as often as they are mended, then made all or none. */
export function peopleListRoutes({ database, seal, mail }: Services): Route[] {
  return [
    route({
      method: 'POST',
      path: '/api/people/list/read',
      area,
      summary: 'Read pasted rows or a CSV file as people; nothing is kept',
      who: editors,
      bodyLimit,
      perMinute: 60,
      body: Joi.object<{ text: string; columns: ListColumn[] | null }>({
        text: Joi.string().required().messages({ 'string.empty': 'There is nothing to read.' }),
        columns: Joi.array().items(column).max(100).allow(null).default(null),
      }),
      reply: Joi.object({
        headers: Joi.array().items(Joi.string().allow('')).required(),
        columns: Joi.array().items(column).required(),
        rows: Joi.array().items(row).required(),
      }),
      errors: [],
      handle: ({ body }) => readPeople(body.text, body.columns),
    }),
    route({
      method: 'POST',
      path: '/api/people/list/check',
      area,
      summary: 'Check rows of people and fill what is empty; nothing is kept',
      who: editors,
      bodyLimit,
      perMinute: 240,
      body: Joi.object<{ rows: PersonRow[] }>({ rows }),
      reply: Joi.object({
        rows: Joi.array()
          .items(
            Joi.object<CheckedPerson, true>({
              row: row.required(),
              faults: Joi.object().pattern(Joi.string(), Joi.string()).required(),
            }),
          )
          .required(),
        newTeams: Joi.array().items(Joi.string()).required(),
      }),
      errors: [],
      handle: ({ body }) => checkList(database, body.rows),
    }),
    route({
      method: 'POST',
      path: '/api/people/list',
      example: { rows: [{ name: 'Mara Quay', team: 'Bookings', role: 'agent', login: '', extension: '' }] },
      area,
      summary:
        'Make all people of the rows and the teams they name, or nobody; their secrets are shown this once',
      who: editors,
      bodyLimit,
      perMinute: 30,
      body: Joi.object<{ rows: PersonRow[]; sendCodes: boolean }>({
        rows,
        sendCodes: Joi.boolean().default(false),
      }),
      reply: Joi.array().items(newPerson),
      errors: ['taken', 'notNow'],
      handle: ({ body, caller }) => {
        if (body.sendCodes) requirePostOffice(mail, '/sendCodes');
        return database.transaction(async (trx) => {
          const made = await createList(trx, seal, body.rows, authorOf(signedIn(caller).personId));
          return body.sendCodes ? sendCodes(trx, seal, made) : made;
        });
      },
    }),
  ];
}
