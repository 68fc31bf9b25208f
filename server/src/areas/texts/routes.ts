import Joi from 'joi';
import type { TextReader } from '@night-bell/core/model/numbers.schema';
import { readers } from '@night-bell/core/model/roles';
import { type TextDraft, textDraft } from '@night-bell/core/model/texts.schema';
import { Problem } from '../../http/problems.ts';
import { type Caller, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { listTexts, type Text, textNumbers, writeText } from './store.ts';

const area = 'Texts';

const textView = Joi.object<Text, true>({
  id: Joi.string().required(),
  numberId: Joi.string().required(),
  number: Joi.string().required(),
  label: Joi.string().required(),
  other: Joi.string().required(),
  name: Joi.string().allow(null).required(),
  optedOut: Joi.boolean().required(),
  direction: Joi.string().valid('in', 'out').required(),
  body: Joi.string().required(),
  at: Joi.string().required(),
  state: Joi.string().valid('received', 'waiting', 'sent', 'failed').required(),
  why: Joi.string().allow(null).required(),
  by: Joi.string().allow(null).required(),
});

export function textRoutes({ database, live }: Services): Route[] {
  /** A person reads their own; a queue's are read by its members. */
  const isRead = ({ kind, id }: TextReader, personId: string): boolean => {
    if (kind === 'person') return id === personId;
    const members = live.ready ? live.exchange.view().queues.get(id)?.members : undefined;
    return members?.some((member) => member.personId === personId) === true;
  };
  /** Agents see what they are to read; those who see the set-up see all, unless they ask for their own. */
  const numbersOf = async (me: Caller, mine: boolean) =>
    (await textNumbers(database)).filter(
      (number) => (readers.includes(me.role) && !mine) || isRead(number.reader, me.personId),
    );

  return [
    route({
      method: 'GET',
      path: '/api/texts',
      area,
      summary: 'Texts of one number, of all, or of those the caller is to read: the latest 200, latest first',
      who: [...readers, 'agent'],
      query: Joi.object<{ numberId?: string; mine: boolean }>({
        numberId: Joi.string().guid(),
        mine: Joi.boolean().default(false),
      }),
      reply: Joi.array().items(textView),
      errors: [],
      handle: async ({ query, caller }) => {
        const me = signedIn(caller);
        // What a number had while it took texts stays to be seen with it.
        if (query.numberId !== undefined && readers.includes(me.role) && !query.mine)
          return listTexts(database, [query.numberId]);
        const numbers = await numbersOf(me, query.mine);
        const ids = numbers.map((number) => number.id);
        return listTexts(
          database,
          query.numberId === undefined ? ids : ids.filter((id) => id === query.numberId),
        );
      },
    }),
    route({
      method: 'POST',
      path: '/api/texts',
      area,
      summary: 'Send a text from a number that takes texts; it is charged when the provider has it',
      who: ['administrator', 'supervisor', 'agent'],
      perMinute: 30,
      body: textDraft as Joi.ObjectSchema<TextDraft>,
      reply: Joi.object({ id: Joi.string().required() }),
      errors: ['notNow', 'notAllowed'],
      handle: async ({ body, caller }) => {
        const me = signedIn(caller);
        const [number] = await textNumbers(database, { id: body.numberId });
        if (number === undefined)
          throw Problem.field('/numberId', 'This number takes no texts. Say first who reads them.');
        if (me.role === 'agent' && !isRead(number.reader, me.personId))
          throw new Problem('notAllowed', 'Others read the texts of this number. Ask them, or a supervisor.');
        return { id: await database.transaction((trx) => writeText(trx, body, me.personId)) };
      },
    }),
  ];
}
