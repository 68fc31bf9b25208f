import { describe, expect, test } from 'vitest';
import type { CallLive, CallRow } from '../../api/client.ts';
import { lineInProgress, lineOver, type Names, shape, stageWords } from './call-lines.ts';

const names: Names = {
  ofNumber: (digits) => `label of ${digits}`,
  ofItem: (id) => `name of ${id}`,
  ofPerson: (id) => (id === 'hidden' ? null : `person ${id}`),
};
const live = {
  ...{ callId: 'c', direction: 'inbound', to: '+12065550140', from: '+13605550117', callerName: 'Ann' },
  ...{ stage: 'waiting', since: 0, arrivedAt: 1_000, answeredAt: null, numberId: 'n', queueId: 'q' },
  ...{ campaignId: null, contactId: null, recordId: null, sourceId: 's', trunkId: null, personId: null },
  ...{ leg: null, phoneId: null, consulted: null, offers: 0 },
} as CallLive;

describe('a call in progress', () => {
  test('shows who is on the other side, what it is about, and how long it has waited', () => {
    expect(lineInProgress(live, 8_000, names)).toMatchObject({
      ...{ id: 'c', other: '+13605550117', otherName: 'Ann', number: 'label of +12065550140' },
      ...{ sourceName: 'name of s', about: 'name of q', personName: null, result: null },
      ...{ waitedMs: 7_000, talkedMs: 0 },
    });
  });

  test('once answered waits no longer, and talks', () => {
    const talks = { ...live, stage: 'talking', answeredAt: 3_000, personId: 'a' } as CallLive;
    const line = lineInProgress(talks, 8_000, names);
    expect([line.waitedMs, line.talkedMs, line.personName]).toEqual([2_000, 5_000, 'person a']);
    expect(lineInProgress({ ...talks, personId: 'hidden' }, 8_000, names).personName).toBeNull();
  });

  test('that we dialled has whom we called on the other side, and its campaign before its queue', () => {
    const out = { ...live, direction: 'outbound', campaignId: 'x' } as CallLive;
    expect(lineInProgress(out, 8_000, names)).toMatchObject({
      ...{ other: '+12065550140', number: 'label of +13605550117', about: 'name of x' },
    });
  });

  test('that a ring group’s phones ring for is of that group, unless it waits in a queue too', () => {
    const rung = { ...live, queueId: null, ringGroupId: 'g' };
    expect(lineInProgress(rung, 8_000, names).about).toBe('name of g');
    expect(lineInProgress({ ...rung, queueId: 'q' }, 8_000, names).about).toBe('name of q');
  });

  test('has a word for whatever it is at', () => {
    for (const word of Object.values(stageWords)) expect(word.length).toBeGreaterThan(3);
    expect(new Set(Object.values(stageWords)).size).toBe(Object.keys(stageWords).length);
  });
});

describe('a call that is over', () => {
  const row = {
    ...{ id: 'c', direction: 'inbound', arrivedAt: '2026-11-24T10:00:00.000Z', caller: '+13605550117' },
    ...{ dialled: '+12065550140', callerName: 'Ann', recordName: null, numberLabel: null },
    ...{ campaignName: null, queueName: 'Bookings', result: 'answered', waitedMs: 1, talkedMs: 2 },
  } as CallRow;

  test('is told as it was kept, with the record before the name the caller brought', () => {
    expect(lineOver(row, names)).toMatchObject({
      ...{ arrivedAt: Date.parse(row.arrivedAt), other: '+13605550117', otherName: 'Ann', stage: 'ended' },
      ...{ number: 'label of +12065550140', about: 'Bookings' },
    });
    const known = { ...row, recordName: 'Ann Ltd', numberLabel: 'Main' } as CallRow;
    expect(lineOver(known, names)).toMatchObject({ otherName: 'Ann Ltd', number: 'Main' });
  });

  test('is marked by how it ended: a caller turned away is a fault, a contact who did not lift is none', () => {
    const line = (more: object) => shape(lineOver({ ...row, ...more } as CallRow, names));
    expect(line({})).toBe('done');
    expect(line({ result: 'voicemail' })).toBe('missing');
    expect(line({ result: 'turnedAway' })).toBe('fault');
    expect(line({ direction: 'outbound', result: 'noAnswer' })).toBe('missing');
    expect(line({ direction: 'outbound', result: 'abandoned' })).toBe('fault');
    expect(shape(lineInProgress(live, 1, names))).toBe('ringing');
    expect(shape(lineInProgress({ ...live, stage: 'talking' } as CallLive, 1, names))).toBe('talking');
  });
});
