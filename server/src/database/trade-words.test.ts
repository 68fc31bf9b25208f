import { expect, test } from 'vitest';
import { landedInstallation } from '../live/landed.testing.ts';
import { migrate } from './migrate.ts';

/** What the version before kept, each with a text of somebody that looks like it. */
const typed = 'Mr "kind":"told", "keep":';
const story = [
  { callId: 'c', at: 1, kind: 'arrived', to: '1', from: '2', callerName: typed },
  { callId: 'c', at: 1, kind: 'launched', pace: { ratio: 1, keep: true, why: 'oneEach' }, keptName: typed },
  {
    callId: 'c',
    at: 2,
    kind: 'decision',
    why: 'keptForThis',
    candidates: { counts: { kept: 1, resting: 2 } },
  },
  { callId: 'c', at: 2, kind: 'directDecision', reasons: [{ code: 'kept' }, { code: 'resting', until: 3 }] },
  { callId: 'c', at: 3, kind: 'notTaken', restsUntil: 4 },
  { callId: 'c', at: 3, kind: 'takenFrom' },
  { callId: 'c', at: 4, kind: 'announces' },
  { callId: 'c', at: 4, kind: 'told' },
  { callId: 'c', at: 5, kind: 'callerBack', why: 'takenBack' },
  { callId: 'c', at: 6, kind: 'handedOver', announced: true },
  { callId: 'c', at: 7, kind: 'wayOut' },
  { callId: 'c', at: 7, kind: 'wayFailed' },
  { callId: 'c', at: 8, kind: 'noWay' },
  { callId: 'c', at: 9, kind: 'ledNowhere', why: 'unknownNumber' },
  { callId: 'c', at: 9, kind: 'ended', result: 'nowhere' },
];

test('stories, log and inbox take the trade’s words; what somebody typed stays as it was', async () => {
  const { database, drop } = await landedInstallation({ migrated: false });
  try {
    const id = '01a21e85-0000-7000-8000-000000000001';
    await database('call').insert({
      ...{
        id,
        dialled: '1',
        caller: '2',
        result: 'nowhere',
        ended_by: 'exchange',
        waited_ms: 0,
        talked_ms: 0,
      },
      ...{ arrived_at: new Date(), ended_at: new Date(), offers: 0, stand_in: false },
      story: JSON.stringify(story),
    });
    const command = { kind: 'callHandedOver', leg: 'c.2', to: { kind: 'end' } };
    await database('exchange_inbox').insert({ body: JSON.stringify(command) });
    await migrate(database);
    const row = await database('call').where({ id }).first<{ story: typeof story; result: string }>();
    expect(row.result).toBe('unroutable');
    expect(row.story).toEqual([
      story[0],
      {
        ...{ callId: 'c', at: 1, kind: 'launched', reservedName: typed },
        pace: { ratio: 1, reserve: true, why: 'oneEach' },
      },
      {
        ...{ callId: 'c', at: 2, kind: 'decision', why: 'reservedForThis' },
        candidates: { counts: { reserved: 1, backingOff: 2 } },
      },
      {
        ...{ callId: 'c', at: 2, kind: 'directDecision' },
        reasons: [{ code: 'reserved' }, { code: 'backingOff', until: 3 }],
      },
      { callId: 'c', at: 3, kind: 'notTaken', backOffUntil: 4 },
      { callId: 'c', at: 3, kind: 'pickedUp' },
      { callId: 'c', at: 4, kind: 'consultationBegun' },
      { callId: 'c', at: 4, kind: 'consulted' },
      { callId: 'c', at: 5, kind: 'transferCancelled', why: 'retrieved' },
      { callId: 'c', at: 6, kind: 'transferred', attended: true },
      { callId: 'c', at: 7, kind: 'routeChosen' },
      { callId: 'c', at: 7, kind: 'trunkFailed' },
      { callId: 'c', at: 8, kind: 'noRoute' },
      { callId: 'c', at: 9, kind: 'unroutable', why: 'unknownNumber' },
      { callId: 'c', at: 9, kind: 'ended', result: 'unroutable' },
    ]);
    const inbox = await database('exchange_inbox').orderBy('id', 'desc').first<{ body: object }>('body');
    expect(inbox.body).toEqual({ ...command, kind: 'callTransferred' });
    const kinds = await database('exchange_event').distinct<{ kind: string }[]>(
      database.raw(`body->>'kind' as kind`),
    );
    expect(kinds.map(({ kind }) => kind)).toContain('consultationAsked');
    expect(kinds.map(({ kind }) => kind)).not.toContain('callAnnounced');
  } finally {
    await drop();
  }
});
