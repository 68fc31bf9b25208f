import type { Knex } from 'knex';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';

export interface EmergencyCall {
  callId: string;
  personName: string;
  extension: string | null;
  digits: string;
  address: string | null;
  at: string;
  seenBy: string | null;
}

/** Kept with the call that asks for help, so that it is told even after a crash. */
export async function keepEmergency(trx: Knex, effect: Effect & { kind: 'emergency' }): Promise<void> {
  await trx('emergency_call')
    .insert({
      call_id: effect.callId,
      person_id: effect.personId,
      phone_id: effect.phoneId,
      digits: effect.digits,
      address: effect.address,
    })
    .onConflict('call_id')
    .ignore();
}

/** Calls for help of the last day, latest first. */
export async function emergencyCalls(database: Knex): Promise<EmergencyCall[]> {
  const rows = await database('emergency_call as c')
    .join('item as p', 'p.id', 'c.person_id')
    .leftJoin('extension as e', 'e.item_id', 'c.person_id')
    .leftJoin('item as s', 's.id', 'c.seen_by')
    .whereRaw(`c.at > now() - interval '1 day'`)
    .orderBy('c.at', 'desc')
    .limit(50)
    .select<(Omit<EmergencyCall, 'at'> & { at: Date })[]>(
      'c.call_id as callId',
      'p.name as personName',
      'e.digits as extension',
      'c.digits',
      'c.address',
      'c.at',
      's.name as seenBy',
    );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

export async function markSeen(trx: Knex, callId: string, personId: string): Promise<number> {
  return trx('emergency_call').where({ call_id: callId }).whereNull('seen_by').update({ seen_by: personId });
}
