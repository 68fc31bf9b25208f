import type { Knex } from 'knex';
import type { Database } from '../database/connection.ts';
import { newId } from '../spine/items.ts';
import type { Letter, Mail } from './mail.ts';

const atOnce = 20;
/** Some two days, with pauses that double. */
const mostTries = 12;

/** Letters that go out once this transaction has committed. */
export async function queueLetters(trx: Knex, letters: Letter[]): Promise<void> {
  if (letters.length === 0) return;
  await trx('letter').insert(
    letters.map(({ to, subject, text }) => ({ id: newId(), recipient: to, subject, body: text })),
  );
}

/** Sends what waits; what was not taken is tried again, later and later. */
export async function sendLetters(database: Database, mail: Mail): Promise<void> {
  const letters = await database('letter')
    .whereRaw('next_try <= now()')
    .andWhere('tries', '<', mostTries)
    .orderBy('at')
    .limit(atOnce)
    .select<{ id: string; recipient: string; subject: string; body: string }[]>();
  for (const { id, recipient, subject, body } of letters) {
    try {
      await mail.send({ to: recipient, subject, text: body });
      await database('letter').where({ id }).delete();
    } catch (error) {
      await database('letter')
        .where({ id })
        .update({
          tries: database.raw('tries + 1'),
          next_try: database.raw(`now() + interval '30 seconds' * power(2, tries)`),
          fault: String(error).slice(0, 300),
        });
    }
  }
}
