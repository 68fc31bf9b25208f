import type { Knex } from 'knex';
import type { RecordingSettings, RecordingsHeld, RecordingView } from '@night-bell/core/contracts/recordings';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import type { Prepared } from '../../sound/prepared.ts';
import { type Author, recordChange } from '../../spine/items.ts';

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** That a talk was recorded, with the events of its call. A plan that is only tried has no id of its own. */
export async function keepTalk(trx: Knex, talk: Effect & { kind: 'talkRecorded' }): Promise<void> {
  const { callId, part, personId, queueId, planId, from, recordedMs, pausedMs } = talk;
  await trx('recording')
    .insert({
      ...{ call_id: callId, part, person_id: personId, queue_id: queueId, at: new Date(from) },
      plan_id: planId !== null && uuid.test(planId) ? planId : null,
      ...{ seconds: recordedMs / 1000, paused_seconds: pausedMs / 1000 },
    })
    .onConflict(['call_id', 'part'])
    .ignore();
}

/** That its sound is kept in this file. It may come before or after the talk is written down; a repeat changes nothing. */
export async function keepTalkSound(
  database: Knex,
  { callId, part, file, sound }: { callId: string; part: number; file: string; sound: Prepared },
): Promise<void> {
  await database('recording_sound')
    .insert({
      ...{ call_id: callId, part, file, bytes: sound.telephone.byteLength },
      ...{ seconds: sound.seconds, peaks: sound.peaks },
    })
    .onConflict(['call_id', 'part'])
    .ignore();
}

/** Whether this talk was recorded and its sound has not come. */
export async function lacksTalkSound(database: Knex, callId: string, part: number): Promise<boolean> {
  if (!uuid.test(callId)) return false;
  const row = await database('recording as r')
    .leftJoin('recording_sound as s', (join) => join.on('s.call_id', 'r.call_id').andOn('s.part', 'r.part'))
    .where({ 'r.call_id': callId, 'r.part': part })
    .whereNull('s.call_id')
    .first('r.part');
  return row !== undefined;
}

export interface KeptTalk extends Omit<RecordingView, 'mayHear'> {
  teamId: string | null;
  /** Null for no sound. */
  file: string | null;
}

/** The talks of a call that were recorded, in order. */
export async function talksOf(database: Knex, callId: string): Promise<KeptTalk[]> {
  const rows = await database('recording as r')
    .join('item as i', 'i.id', 'r.person_id')
    .leftJoin('person as p', 'p.id', 'r.person_id')
    .leftJoin('recording_sound as s', (join) => join.on('s.call_id', 'r.call_id').andOn('s.part', 'r.part'))
    .where('r.call_id', callId)
    .orderBy('r.part')
    .select<
      (Omit<KeptTalk, 'at' | 'sound'> & { at: Date; soundSeconds: number | null; peaks: number[] | null })[]
    >(
      ...['r.call_id as callId', 'r.part', 'r.person_id as personId', 'i.name as personName', 'r.at'],
      ...['r.seconds', 'r.paused_seconds as pausedSeconds', 'p.team_id as teamId', 's.file'],
      ...['s.seconds as soundSeconds', 's.peaks'],
    );
  return rows.map(({ at, soundSeconds, peaks, ...row }) => ({
    ...row,
    at: at.getTime(),
    sound: soundSeconds === null || peaks === null ? null : { seconds: soundSeconds, peaks },
  }));
}

/** That somebody listens: the first time stands in the history of whose talk it was. */
export async function recordTalkHeard(
  database: Knex,
  talk: KeptTalk,
  from: string,
  listener: string,
  author: Author,
): Promise<void> {
  await database.transaction(async (trx) => {
    const first = await trx('recording_hearing')
      .insert({ call_id: talk.callId, part: talk.part, person_id: listener })
      .onConflict(['call_id', 'part', 'person_id'])
      .ignore()
      .returning('part');
    if (first.length === 0 || listener === talk.personId) return;
    const after = { from: [from], count: 1, callId: talk.callId, at: talk.at };
    await recordChange(trx, { item_id: talk.personId, what: 'heard', before: null, after }, author);
  });
}

export async function readRecordingSettings(database: Knex): Promise<RecordingSettings> {
  const row = await database('installation').first('recording_days', 'agents_hear_own');
  return { keepDays: row!.recording_days, agentsHearOwn: row!.agents_hear_own };
}

export async function writeRecordingSettings(trx: Knex, settings: RecordingSettings): Promise<void> {
  const { keepDays, agentsHearOwn } = settings;
  await trx('installation').update({ recording_days: keepDays, agents_hear_own: agentsHearOwn });
}

export async function recordingsHeld(database: Knex): Promise<Omit<RecordingsHeld, 'isKept'>> {
  const { rows } = await database.raw<{ rows: Omit<RecordingsHeld, 'isKept'>[] }>(
    `select count(*)::int as count, round(coalesce(sum(bytes), 0) / 1048576.0, 1)::float as megabytes
     from recording_sound`,
  );
  return rows[0]!;
}
