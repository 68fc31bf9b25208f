import type { Knex } from 'knex';
import type { SecretBox } from '../security/secret-box.ts';
import type { Database } from '../database/connection.ts';
import { newId } from '../spine/items.ts';
import type { Letter, Mail } from './mail.ts';

const atOnce = 20;
/** Some two days, with pauses that double. */
const mostTries = 12;

/** Letters that go out once this transaction has committed. With `seal`, what they say is secret while it waits. */
export async function queueLetters(
  trx: Knex,
  letters: Letter[],
  seal: SecretBox | null = null,
): Promise<void> {
  if (letters.length === 0) return;
  await trx('letter').insert(
    letters.map(({ to, subject, text }) => ({
      ...{ id: newId(), recipient: to, subject, sealed: seal !== null },
      body: seal === null ? text : seal.seal(text),
    })),
  );
}

/** Sends what waits; what was not taken is tried again, later and later. */
export async function sendLetters(database: Database, mail: Mail, seal: SecretBox): Promise<void> {
  const letters = await database('letter')
    .whereRaw('next_try <= now()')
    .andWhere('tries', '<', mostTries)
    .orderBy('at')
    .limit(atOnce)
    .select<{ id: string; recipient: string; subject: string; body: string; sealed: boolean }[]>();
  for (const { id, recipient, subject, body, sealed } of letters) {
    try {
      await mail.send({ to: recipient, subject, text: sealed ? seal.open(body) : body });
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
