import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { Database } from '../database/connection.ts';
import { newId } from '../spine/items.ts';
import type { Letter, Mail } from './mail.ts';

const lookEveryMs = 2_000;
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

/** Sends what waits, on the one server that hosts the exchange; what was not taken is tried again, later and later. */
export class MailOutbox {
  private readonly database: Database;
  private readonly mail: Mail | null;
  private readonly active: () => boolean;
  private readonly logger: Logger;
  private readonly timer: NodeJS.Timeout;
  private working: Promise<void> = Promise.resolve();

  constructor(database: Database, mail: Mail | null, active: () => boolean, logger: Logger) {
    this.database = database;
    this.mail = mail;
    this.active = active;
    this.logger = logger;
    this.timer = setInterval(() => this.active() && void this.sendWaiting(), lookEveryMs);
  }

  /** One round at a time. */
  sendWaiting(): Promise<void> {
    this.working = this.working
      .then(() => this.round())
      .catch((error: unknown) => this.logger.warn({ error: String(error) }, 'letters not sent'));
    return this.working;
  }

  private async round(): Promise<void> {
    const { mail } = this;
    if (mail === null) return;
    const letters = await this.database('letter')
      .whereRaw('next_try <= now()')
      .andWhere('tries', '<', mostTries)
      .orderBy('at')
      .limit(atOnce)
      .select<{ id: string; recipient: string; subject: string; body: string }[]>();
    for (const { id, recipient, subject, body } of letters) {
      try {
        await mail.send({ to: recipient, subject, text: body });
        await this.database('letter').where({ id }).delete();
      } catch (error) {
        await this.database('letter')
          .where({ id })
          .update({
            tries: this.database.raw('tries + 1'),
            next_try: this.database.raw(`now() + interval '30 seconds' * power(2, tries)`),
            fault: String(error).slice(0, 300),
          });
      }
    }
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.working;
  }
}
