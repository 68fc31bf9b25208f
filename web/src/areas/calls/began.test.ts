import { expect, test } from 'vitest';
import type { StoryRecord } from '@night-bell/core/story/records';
import type { CallRow } from '../../api/client.ts';
import { beganOf } from './began.ts';

const row = {
  ...{ direction: 'dialled', dialled: '+13605550117', caller: '+12065550140', callerName: null },
  ...{ numberLabel: 'Main line', arrivedAt: '2026-11-24T10:00:00.000Z' },
} as CallRow;
const story = (record: object) => [{ callId: 'c', at: 5, ...record }] as StoryRecord[];

test('of a call that came in: the caller by name, and the label of the number', () => {
  const arrived = { kind: 'arrived', to: '+1206', from: '+1360', callerName: 'Ann', label: 'Main line' };
  expect(beganOf(story(arrived), row)).toEqual({
    ...{ way: 'inbound', at: 5, to: '+1206', from: '+1360', name: 'Ann', label: 'Main line' },
  });
});

test('of one somebody dialled: who did, and the number they were seen as', () => {
  const dialled = { kind: 'dialledBy', personId: 'p', name: 'Ivo Marrash', to: '+13605550117' };
  expect(beganOf(story(dialled), row)).toMatchObject({
    ...{ way: 'dialled', to: '+13605550117', from: '+12065550140', label: 'Ivo Marrash' },
  });
  // Before it is over there is no row yet.
  expect(beganOf(story(dialled), null)).toMatchObject({ from: '' });
});

test('of one whose story could not be written: what its row says; of one without either, nothing', () => {
  expect(beganOf([], row)).toMatchObject({
    way: 'dialled',
    at: Date.parse(row.arrivedAt),
    label: 'Main line',
  });
  expect(beganOf([], null)).toBeUndefined();
});
