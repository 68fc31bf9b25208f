import { validate } from 'uuid';
import type { Database } from '../../database/connection.ts';
import type { Waiting } from '../../live/lamps.ts';
import { NotASound } from '../../sound/not-a-sound.ts';
import type { Sounds } from '../../sound/sounds.ts';
import { keepRecording } from './messages.ts';

/** No box records longer; a little more for what a gateway adds. */
const longestSeconds = 620;

/** Whether this call left a message whose sound has not come. */
export async function lacksSound(database: Database, callId: string): Promise<boolean> {
  // A gateway may name what never was a call.
  if (!validate(callId)) return false;
  const row = await database('message as m')
    .leftJoin('message_sound as s', 's.call_id', 'm.call_id')
    .where('m.call_id', callId)
    .whereNull('s.call_id')
    .first('m.id');
  return row !== undefined;
}

/** Reads what a gateway recorded by its content, and keeps it as the telephone has it. A sentence when it is no sound. */
export async function takeRecording(
  database: Database,
  sounds: Sounds,
  callId: string,
  file: Buffer,
): Promise<string | null> {
  try {
    await keepRecording(database, callId, await sounds.prepare(file, longestSeconds));
    return null;
  } catch (error) {
    if (error instanceof NotASound) return error.message;
    throw error;
  }
}

/** The messages that wait for the owners of these boxes, or of these phones; one line for each phone. */
export async function waitingMessages(
  database: Database,
  { boxIds, phoneIds }: { boxIds: string[]; phoneIds: string[] },
): Promise<Waiting[]> {
  const { rows } = await database.raw<{ rows: Waiting[] }>(
    `select f.id as "phoneId", f.account,
       count(m.id) filter (where m.state = 'new')::int as fresh,
       count(m.id) filter (where m.state <> 'new')::int as old
     from phone f join item i on i.id = f.id and i.retired_at is null
     join voicemail_box v on v.owner_id = f.person_id
     left join message m on m.box_id = v.id and m.deleted_at is null
     where f.account <> '' and (v.id = any(?::uuid[]) or f.id = any(?::uuid[]))
     group by f.id, f.account`,
    [boxIds, phoneIds],
  );
  return rows;
}
