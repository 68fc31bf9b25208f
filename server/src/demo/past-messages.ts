import type { Knex } from 'knex';
import type { Database } from '../database/connection.ts';
import { keepRecording, tellExchange } from '../areas/voicemail/messages.ts';
import type { Sounds } from '../sound/sounds.ts';
import { newId } from '../spine/items.ts';

const inEachBox = 4;
const newestDays = 25;
const newForMs = 10 * 3_600_000;
const wordsASecond = 3;

interface Left {
  callId: string;
  boxId: string;
  at: Date;
  caller: string;
  callerName: string | null;
  seconds: number;
  listener: string | null;
}

/** What callers of the last weeks left in boxes, spoken where there is a voice; the older ones have been heard. */
export async function loadMessages(
  database: Database,
  sounds: Sounds | null,
  sentences: readonly string[],
): Promise<void> {
  const left = await latest(database);
  await database.transaction(async (trx) => {
    for (const each of left) await keep(trx, each);
    const counts = new Map<string, number>();
    for (const { boxId } of left) counts.set(boxId, (counts.get(boxId) ?? 0) + 1);
    await tellExchange(trx, counts, 1);
  });
  if (sounds === null) return;
  for (const [index, { callId, seconds }] of left.entries()) {
    try {
      const words = wordsFor(sentences, index, seconds);
      const file = cutTo(await sounds.voice.speak(words, 'en'), seconds);
      await keepRecording(database, callId, await sounds.prepare(file, Math.ceil(seconds) + 1));
    } catch {
      // No voice here: the messages are there, and say that their sound has not come.
      return;
    }
  }
}

async function latest(database: Database): Promise<Left[]> {
  const { rows } = await database.raw<{ rows: Left[] }>(
    `select * from (
       select c.id as "callId", c.voicemail_box_id as "boxId", c.caller, c.caller_name as "callerName",
         c.ended_at - make_interval(secs => c.message_ms / 1000.0) as at, c.message_ms / 1000.0::real as seconds,
         case when o.kind = 'person' then v.owner_id
              else (select p.id from queue_member m join person p on p.id = m.member_id or p.team_id = m.member_id
                    where m.queue_id = v.owner_id order by p.login limit 1) end as listener,
         row_number() over (partition by c.voicemail_box_id order by c.ended_at desc) as place
       from call c join voicemail_box v on v.id = c.voicemail_box_id left join item o on o.id = v.owner_id
       where c.message_ms > 3000 and c.ended_at > now() - make_interval(days => ?)) as found
     where place <= ? order by at`,
    [newestDays, inEachBox],
  );
  return rows.map((row) => ({ ...row, seconds: Number(row.seconds) }));
}

async function keep(
  trx: Knex,
  { callId, boxId, at, caller, callerName, seconds, listener }: Left,
): Promise<void> {
  const heard = Date.now() - at.getTime() > newForMs && listener !== null;
  await trx('message').insert({
    ...{ id: newId(), box_id: boxId, call_id: callId, caller, caller_name: callerName, at, seconds },
    ...(heard ? { state: 'heard', heard_by: listener, heard_at: new Date(at.getTime() + 3_600_000) } : {}),
  });
}

/** Enough words to fill so many seconds. */
export function wordsFor(sentences: readonly string[], from: number, seconds: number): string {
  const said: string[] = [];
  for (let i = from, count = 0; count < seconds * wordsASecond + 10; i++) {
    const sentence = sentences[i % sentences.length]!;
    said.push(sentence);
    count += sentence.split(' ').length;
  }
  return said.join(' ');
}

/** The beginning of a WAV file (16 bits, one channel) of so many seconds; its lengths are mended by whoever reads it. */
export function cutTo(file: Uint8Array, seconds: number): Uint8Array {
  const bytesASecond = new DataView(file.buffer, file.byteOffset).getUint32(28, true);
  const header = 44;
  return file.slice(0, header + 2 * Math.round((seconds * bytesASecond) / 2));
}
