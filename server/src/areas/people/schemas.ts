import Joi from 'joi';
import { noAnswerView } from '../../http/destination-view.ts';
import { roles } from '@night-bell/core/model/roles';
import { phoneSecretView, phoneView } from '../phones/schemas.ts';
import type { NewPerson } from './create.ts';
import { pageQuery, someIds } from '../../http/paging.ts';
import { type PeopleQuery, peopleOrders, type PersonRow, phoneOrder, stateOrder } from './people.queries.ts';
import type { PersonView } from './store.ts';

const idName = Joi.object({ id: Joi.string().required(), name: Joi.string().required() });

/** What a row of a list and the whole of a person have alike. */
const alike = {
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  login: Joi.string().required(),
  role: Joi.string()
    .valid(...roles)
    .required(),
  mail: Joi.string().allow(null).required(),
  extension: Joi.string().allow('').required(),
  teamId: Joi.string().allow(null).required(),
  teamName: Joi.string().allow(null).required(),
  skills: Joi.array()
    .items(Joi.object({ skillId: Joi.string().required(), level: Joi.number().integer().required() }))
    .required(),
  queues: Joi.array().items(idName).required(),
};

export const personView = Joi.object<PersonView, true>({
  ...alike,
  callLimit: Joi.number().integer().required(),
  ringSeconds: Joi.number().integer().required(),
  signInWithPhone: Joi.boolean().required(),
  wrapUpSeconds: Joi.number().integer().allow(null).required(),
  startAway: Joi.boolean().required(),
  answerBySelf: Joi.boolean().required(),
  elsewhere: Joi.string().valid('warn', 'takeOver', 'refuse').required(),
  looksAfter: Joi.array().items(Joi.string()).required(),
  hasOwnPassword: Joi.boolean().required(),
  noAnswer: noAnswerView.required(),
  outsideNumber: Joi.object({ e164: Joi.string().required(), trunkId: Joi.string().required() })
    .allow(null)
    .required(),
  phones: Joi.array().items(phoneView).required(),
  voicemailBoxId: Joi.string().allow(null).required(),
});

export const personRow = Joi.object<PersonRow, true>(alike);

const anId = Joi.string().guid();

/** What narrows and sorts a list of people. */
export const peopleNarrowing = {
  search: Joi.string().allow('').max(80),
  withRetired: Joi.boolean().default(false),
  teamId: anId,
  queueId: anId,
  skillId: anId,
  state: Joi.string().valid(...stateOrder),
  phone: Joi.string().valid(...phoneOrder),
  reachedOver: anId,
  ids: someIds,
  sort: Joi.string()
    .valid(...peopleOrders)
    .default('extension'),
  down: Joi.boolean().default(false),
};

export const peopleQuery = Joi.object<PeopleQuery>({ ...pageQuery, ...peopleNarrowing });

export const newPerson = Joi.object<NewPerson, true>({
  id: Joi.string().required(),
  name: Joi.string().required(),
  login: Joi.string().required(),
  extension: Joi.string().required(),
  signInCode: Joi.string().required(),
  phone: phoneSecretView.allow(null).required(),
  sentTo: Joi.string().allow(null).required(),
});

const mostInBulk = 2_000;

/** Several people at once. */
export const bulkIds = Joi.array()
  .items(Joi.string().guid())
  .min(1)
  .max(mostInBulk)
  .unique()
  .required()
  .messages({
    'array.min': 'Choose somebody first.',
    'array.max': `At most ${mostInBulk.toLocaleString('en')} people at once.`,
  });
