import type { Knex } from 'knex';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import { type MenuMessage, mostReadOut } from '@night-bell/core/model/voicemail-menu';
import type { Database } from '../../database/connection.ts';
import { NotASound } from '../../sound/not-a-sound.ts';
import type { Sounds } from '../../sound/sounds.ts';
import { authorOf } from '../../spine/items.ts';
import { bring } from '../prompts/sounds.ts';
import { promptItem, publishPrompt } from '../prompts/store.ts';
import { Problem } from '../../http/problems.ts';
import { deleteMessages, markMessages, messagesById } from './messages.ts';
import { voicemailItem } from './store.ts';

/** What a box holds, for whoever opened it from a phone: the new ones first, then the latest. */
export async function messagesFor(database: Knex, boxId: string): Promise<MenuMessage[]> {
  return database('message')
    .where({ box_id: boxId })
    .whereNull('deleted_at')
    .orderByRaw(`state = 'new' desc, at desc, id`)
    .limit(mostReadOut)
    .select<MenuMessage[]>('id', 'caller as from', 'seconds', database.raw(`state = 'new' as fresh`));
}

/** A message was heard, deleted or brought back from a phone, on behalf of whose box it is. One that is gone is left. */
export async function doneWithMessage(
  trx: Knex,
  { messageId, what, personId }: Effect & { kind: 'doneWithMessage' },
): Promise<void> {
  if ((await trx('message').where({ id: messageId }).first('id')) === undefined) return;
  const within = trx as Knex.Transaction;
  const messages = await messagesById(within, [messageId]);
  const author = authorOf(personId);
  if (what === 'heard') await markMessages(within, messages, 'heard', author);
  else await deleteMessages(within, messages, what === 'deleted', author);
}

/** What was recorded as a box's greeting becomes what callers from outside hear while it is open. */
export async function keepGreeting(
  database: Database,
  sounds: Sounds,
  boxId: string,
  file: Buffer,
): Promise<string | null> {
  try {
    const box = await voicemailItem.get(database, boxId);
    const personId = box.ownerKind === 'person' ? box.ownerId : null;
    const author = authorOf(personId);
    const name = `${box.name}, by phone`;
    const known = (await promptItem.list(database)).find((each) => each.name === name && !each.retired);
    const words = 'A greeting recorded by phone.';
    const draft = { name, kind: 'voicemailGreeting', language: 'en', words, personId, translationOf: null };
    const promptId =
      known?.id ?? (await database.transaction((trx) => promptItem.create(trx, draft as never, author)));
    await bring(database, sounds, promptId, { file, recorded: true }, author);
    await database.transaction(async (trx) => {
      const { version } = await promptItem.get(trx, promptId);
      await publishPrompt(trx, promptId, version, author);
      const now = await voicemailItem.get(trx, boxId);
      if (now.greetings.open.outside === promptId) return;
      const open = { ...now.greetings.open, outside: promptId };
      const changed = { ...voicemailItem.snapshot(now), greetings: { ...now.greetings, open } };
      await voicemailItem.change(trx, boxId, now.version, changed, author);
    });
    return null;
  } catch (error) {
    if (error instanceof NotASound || error instanceof Problem) return error.message;
    throw error;
  }
}
