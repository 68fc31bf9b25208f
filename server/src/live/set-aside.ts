import type { Knex } from 'knex';
import type { ExchangeEvent } from '@night-bell/core/exchange/kernel/events';
import { ExchangeFault, type Named } from '@night-bell/core/exchange/set-aside';
import type { Database } from '../database/connection.ts';
import { writeWhatCanBe } from './consequences.ts';
import type { Poison } from './faults.ts';
import { appendEvents, closeCommands, replaceEvent } from './log.queries.ts';
import { type Applied, Replica } from './replica.ts';
import { keepSetAside } from './set-aside.queries.ts';

/** What a command is refused with that broke the exchange. */
export const setAsideRefusal = 'setAside';

/**
 * Sets an event aside: it is kept whole, and its place in the log says so, that no number is missing and every server
 * skips the same. The calls it had to do with end as lost, with their facts. To be done by whoever may host, before
 * everything is rebuilt; gives what stands in its place, with effects that are still to be carried out.
 */
export async function setAside(database: Database, poison: Poison): Promise<Applied> {
  const { event, commandId, inLog } = poison;
  const applied = await withoutEvent(database, poison);
  await database.transaction(async (trx) => {
    const { callIds } = applied.event as ExchangeEvent & { kind: 'setAside' };
    await keepEvent(trx, { ...poison, named: { ...poison.named, callIds } }, event.seq);
    if (inLog) await replaceEvent(trx, applied.event);
    else await appendEvents(trx, [applied.event]);
    await writeWhatCanBe(trx, applied);
    if (commandId !== null)
      await closeCommands(trx, [{ id: commandId, seq: event.seq, refusal: setAsideRefusal }]);
    await trx.raw(`select pg_notify('night_bell_log', ?)`, [String(event.seq)]);
  });
  return applied;
}

/** The event itself, for whoever is to find out what was wrong with it. */
export function keepEvent(trx: Knex, { event, named, why }: Poison, seq: number | null): Promise<void> {
  return keepSetAside(trx, {
    ...{ what: 'event', kind: event.kind, seq, callIds: named.callIds, why, content: event },
  });
}

/**
 * The exchange as it was before the event, with what stands in its place taken in. When leaving out those named is not
 * enough, who breaks it next is left out too, and at last all calls: the exchange goes on without them.
 */
async function withoutEvent(database: Database, { event, named }: Poison): Promise<Applied> {
  const { seq, at, kind: what } = event;
  let out: Named = named;
  for (let attempt = 1; ; attempt++) {
    const replica = await Replica.load(database, { last: seq - 1 });
    if (attempt === lastAttempt) out = everybody(replica);
    try {
      return replica.apply({ seq, at, kind: 'setAside', what, ...out });
    } catch (error) {
      if (attempt === lastAttempt || !(error instanceof ExchangeFault)) throw error;
      out = both(out, error.named);
    }
  }
}

const lastAttempt = 4;

function both(one: Named, other: Named): Named {
  return {
    callIds: [...new Set([...one.callIds, ...other.callIds])],
    personIds: [...new Set([...one.personIds, ...other.personIds])],
  };
}

function everybody({ exchange }: Replica): Named {
  const { calls, agents } = exchange.view();
  return { callIds: [...calls.keys()], personIds: [...agents.keys()] };
}
