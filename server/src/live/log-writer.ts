import type pg from 'pg';
import { tableColumns } from '../database/tables.ts';
import { callRow } from './log.queries.ts';
import type { Applied } from './replica.ts';

/** A command that is done, by which event, or why it was refused. */
export interface Command {
  id: number;
  seq: number;
  refusal: string | null;
}

/** What a call cost is known later, by whoever charges it. */
const callColumns = tableColumns('call')
  .filter((column) => column !== 'cost')
  .join(', ');

/** One round trip, planned once: events, calls that are over, commands that are done, and the notice to all servers. */
const append = {
  name: 'append-log',
  text: `
    with written as (
      insert into exchange_event (seq, at, body)
      select e.seq, e.at, e.body::json from unnest($1::bigint[], $2::bigint[], $3::text[]) as e (seq, at, body)
    ), over as (
      insert into call (${callColumns})
      select ${callColumns} from json_populate_recordset(null::call, $4::json)
      on conflict (id) do nothing
    ), closed as (
      update exchange_inbox x set done_seq = case when d.refusal is null then d.seq end, refusal = d.refusal
      from json_to_recordset($5::json) as d (id bigint, seq bigint, refusal text) where x.id = d.id
    )
    select pg_notify('night_bell_log', $6)`,
};

/** Whether events mean nothing for the database but themselves and the calls they ended. */
export function isPlain(batch: readonly Applied[]): boolean {
  return batch.every(
    ({ event, handled, ended }) =>
      event.kind !== 'setAside' &&
      handled.effects.every(
        (effect) =>
          effect.kind !== 'returnContacts' &&
          effect.kind !== 'optOut' &&
          effect.kind !== 'blockedCaller' &&
          effect.kind !== 'forwardLoop' &&
          effect.kind !== 'storm' &&
          effect.kind !== 'groupPresence' &&
          effect.kind !== 'text' &&
          effect.kind !== 'surveyAnswered' &&
          effect.kind !== 'talkRecorded' &&
          effect.kind !== 'recordNote' &&
          effect.kind !== 'doneWithMessage' &&
          effect.kind !== 'emergency' &&
          (effect.kind !== 'dial' || effect.contact === null),
      ) &&
      ended.every(
        ({ facts }) =>
          facts.contactId === null &&
          facts.recordId === null &&
          facts.voicemailBoxId === null &&
          facts.usages.length === 0,
      ),
  );
}

/** Writes a plain batch over the connection that holds the lock. The primary key refuses a number already taken. */
export async function appendPlain(
  client: pg.Client,
  batch: readonly Applied[],
  commands: readonly Command[],
): Promise<void> {
  const calls = batch.flatMap(({ ended }) => ended.map((call) => callRow(call)));
  await client.query({
    ...append,
    values: [
      batch.map(({ event }) => event.seq),
      batch.map(({ event }) => event.at),
      batch.map(({ event: { seq: _seq, at: _at, ...body } }) => JSON.stringify(body)),
      JSON.stringify(calls),
      JSON.stringify(commands),
      String(batch.at(-1)?.event.seq ?? ''),
    ],
  });
}
