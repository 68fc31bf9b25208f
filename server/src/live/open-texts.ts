import type { Knex } from 'knex';
import { openForMinutes } from '@night-bell/core/texts/conversation';
import type { Logger } from 'pino';
import type { Live } from './live.ts';

const lookEveryMs = 15_000;

/**
 * Text conversations that are open, by person: the last text is not older than ten minutes, and they wrote the last one
 * of ours, or it is on a number whose texts only they read.
 */
export async function openTexts(database: Knex): Promise<Map<string, number>> {
  const { rows } = await database.raw<{ rows: { person: string; open: number }[] }>(
    `select person, count(*)::int as open from (
       select coalesce(
           (array_agg(t.by_person order by t.at desc) filter (where t.by_person is not null))[1],
           (array_agg(n.texts_item) filter (where n.texts_kind = 'person'))[1]) as person
         from text_message t join number n on n.id = t.number_id
         where t.at > now() - interval '1 day'
         group by t.number_id, t.other_side
         having max(t.at) > now() - make_interval(mins => ?)) c
       where person is not null group by person`,
    [openForMinutes],
  );
  return new Map(rows.map(({ person, open }) => [person, open]));
}

/** Tells the exchange how many text conversations everybody has open: some queues ring nobody who has many. */
export class OpenTexts {
  private readonly database: Knex;
  private readonly live: Live;
  private readonly logger: Logger;
  private readonly timer: NodeJS.Timeout;

  constructor(database: Knex, live: Live, logger: Logger) {
    this.database = database;
    this.live = live;
    this.logger = logger;
    this.timer = setInterval(() => void this.look(), lookEveryMs);
  }

  /** Said once for each change, and for nobody when no queue counts texts. */
  async look(): Promise<void> {
    const { live } = this;
    if (!live.isHost || !live.ready) return;
    const { queues, agents } = live.exchange.view();
    if (![...queues.values()].some(({ rules }) => rules.mostTexts !== null)) return;
    try {
      const open = await openTexts(this.database);
      if (!live.isHost) return;
      for (const [personId, { openTexts: before }] of agents) {
        const count = open.get(personId) ?? 0;
        if (count !== before) live.submit({ kind: 'textsOpen', personId, count });
      }
    } catch (error) {
      this.logger.warn({ error: String(error) }, 'open texts not counted');
    }
  }

  close(): void {
    clearInterval(this.timer);
  }
}
