import type { Knex } from 'knex';
import type { Database } from '../../database/connection.ts';
import { named } from '../../database/named.ts';
import type { Outgoing } from '../../outgoing/outgoing.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import { Crm, type CrmCall, CrmFault } from './crm.ts';
import { connectionDoors } from './store.ts';

const atOnce = 25;
const longestPauseSeconds = 600;

/** A call whose record is known goes back to it. Written in the transaction that writes the call. */
export async function queueWriteBack(
  trx: Knex,
  calls: { callId: string; recordId: string }[],
): Promise<void> {
  if (calls.length === 0) return;
  const rows = await trx('record')
    .whereIn('id', [...new Set(calls.map((call) => call.recordId))])
    .select<{ id: string; connection_id: string }[]>('id', 'connection_id');
  const connectionOf = new Map(rows.map((row) => [row.id, row.connection_id]));
  const known = calls.filter((call) => connectionOf.has(call.recordId));
  if (known.length === 0) return;
  await trx('outbox')
    .insert(
      known.map(({ callId, recordId }) => ({
        call_id: callId,
        record_id: recordId,
        connection_id: connectionOf.get(recordId)!,
      })),
    )
    .onConflict('call_id')
    .ignore();
}

/** A note that a plan leaves with the call's record; it goes there with the call. */
export async function keepCallNote(
  trx: Knex,
  { callId, words }: { callId: string; words: string },
): Promise<void> {
  await trx('call_note')
    .insert({ call_id: callId, words })
    .onConflict('call_id')
    .merge({ words: trx.raw(`left(call_note.words || E'\\n' || excluded.words, 4000)`) });
}

/** The outcome or note of a call changed: what was sent is sent again. */
export async function resendCall(trx: Knex, callId: string): Promise<void> {
  await trx('outbox')
    .where({ call_id: callId })
    .update({ revision: trx.raw('revision + 1'), next_at: trx.fn.now() });
}

interface Due {
  id: number;
  connection_id: string;
  external_id: string;
  revision: number;
  attempts: number;
  call: CrmCall;
}

/** Sends what is due. What is not taken waits, longer each time, and is never dropped. */
export async function sendOutbox(database: Database, seal: SecretBox, outgoing: Outgoing): Promise<number> {
  const due = await dueRows(database);
  if (due.length === 0) return 0;
  const doors = new Map((await connectionDoors(database, seal)).map((door) => [door.id, door]));
  let sent = 0;
  for (const row of due) {
    const door = doors.get(row.connection_id);
    if (door === undefined) continue;
    try {
      await new Crm(outgoing, door.address, door.key).writeCall(row.external_id, row.call);
      await database('outbox')
        .where({ id: row.id })
        .update({ sent_revision: row.revision, attempts: 0, fault: null });
      sent++;
    } catch (error) {
      const fault = error instanceof CrmFault ? error : new CrmFault('strange', String(error));
      // A record that is gone takes nothing any more.
      const given = fault.code === 'unknownRecord' ? { sent_revision: row.revision } : {};
      const pause = Math.min(2 ** (row.attempts + 1), longestPauseSeconds);
      await database('outbox')
        .where({ id: row.id })
        .update({
          ...given,
          attempts: row.attempts + 1,
          fault: fault.detail,
          next_at: database.raw(`now() + make_interval(secs => ?)`, [pause]),
        });
      // The others would meet the same: they wait for their turn.
      if (
        fault.code === 'away' ||
        fault.code === 'slow' ||
        fault.code === 'refused' ||
        fault.code === 'wrongKey'
      )
        break;
    }
  }
  return sent;
}

async function dueRows(database: Database): Promise<Due[]> {
  const rows = await database('outbox as x')
    .join('call as c', 'c.id', 'x.call_id')
    .join('record as r', 'r.id', 'x.record_id')
    .leftJoin('call_outcome as o', 'o.call_id', 'c.id')
    .leftJoin('call_note as n', 'n.call_id', 'c.id')
    .whereRaw('x.sent_revision < x.revision and x.next_at <= now()')
    .orderBy([{ column: 'x.next_at' }, { column: 'x.id' }])
    .limit(atOnce)
    .select(
      'x.id',
      'x.connection_id',
      'x.revision',
      'x.attempts',
      'r.external_id',
      'c.id as call_id',
      'c.direction',
      'c.arrived_at',
      'c.caller',
      'c.dialled',
      named(database, 'c.person_id', 'agent'),
      named(database, 'c.queue_id', 'queue'),
      named(database, 'c.campaign_id', 'campaign'),
      'c.result',
      'c.talked_ms',
      'o.outcome',
      database.raw(`concat_ws(E'\\n', nullif(o.note, ''), n.words) as note`),
    );
  return (rows as Record<string, never>[]).map((row) => ({
    id: row.id!,
    connection_id: row.connection_id!,
    external_id: row.external_id!,
    revision: row.revision!,
    attempts: row.attempts!,
    call: {
      callId: row.call_id!,
      direction: row.direction!,
      at: (row.arrived_at! as Date).toISOString(),
      number: row.direction === 'outbound' ? row.dialled! : row.caller!,
      agent: row.agent ?? null,
      queue: row.queue ?? null,
      campaign: row.campaign ?? null,
      result: row.result!,
      talkedSeconds: Math.round((row.talked_ms! as number) / 1000),
      outcome: row.outcome ?? null,
      note: row.note ?? '',
    },
  }));
}
