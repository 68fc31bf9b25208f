import { expect, test } from 'vitest';
import { offerOutcome } from './offer-outcome.ts';
import type { StoryRecord } from './records.ts';

const record = (kind: string, more: object = {}) => ({ callId: 'c', at: 0, kind, ...more }) as StoryRecord;
const decision = record('decision', { chosen: 'a' });
const after = (...records: StoryRecord[]) =>
  ['a', 'b'].map((personId) => offerOutcome([decision, ...records], 0, personId));
const answered = record('answered', { personId: 'b', name: 'Ben' });
const declined = record('notTaken', { personId: 'a', reason: 'declined' });

test('each of those who were rung has an outcome of their own', () => {
  expect(after()).toEqual(['Rings', 'Rings']);
  expect(after(answered)).toEqual(['Taken by Ben', 'Answered']);
  expect(after(declined, answered)).toEqual(['Declined', 'Answered']);
  expect(after(declined, record('noneLifted', { count: 1, rangMs: 9 }))).toEqual(['Declined', 'Not lifted']);
  expect(after(record('ended'))).toEqual(['Caller left', 'Caller left']);
  expect(after(record('decision'), answered)).toEqual(['Rang', 'Rang']);
});
