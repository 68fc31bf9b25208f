// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import type { CallLive } from '../../api/client.ts';
import { type OpenPage, openPage, Refusal } from '../../page.testing.ts';
import PauseRecording from './PauseRecording.vue';

let page: OpenPage;
afterEach(() => page.close());

type Recording = NonNullable<CallLive['recording']>;
const open = async (
  recording: Recording | null,
  { personId = 'me', role = 'agent', answer = null as unknown } = {},
) => {
  page = await openPage(
    PauseRecording,
    { 'POST /api/calls/c/recording': answer },
    { props: { call: { callId: 'c', personId, recording } }, role },
  );
};
const buttons = () => page.shown.findAll('button').map((each) => each.text());

test('whoever talks pauses it, and lets it go on', async () => {
  await open({ state: 'on', mayPause: 'talker' });
  expect(page.text()).toContain('Recorded');
  await page.press('Pause');
  expect(page.sent[0]!.body).toEqual({ paused: true });
  page.close();
  await open({ state: 'paused', mayPause: 'talker' });
  await page.press('Go on recording');
  expect(page.sent[0]!.body).toEqual({ paused: false });
});

test.each([
  [{ state: 'on', mayPause: 'supervisors' }, {}, []],
  [{ state: 'on', mayPause: 'nobody' }, { personId: 'other', role: 'supervisor' }, []],
  [{ state: 'on', mayPause: 'supervisors' }, { personId: 'other', role: 'supervisor' }, ['Pause']],
  [{ state: 'on', mayPause: 'talker' }, { personId: 'other', role: 'auditor' }, []],
  [{ state: 'held', mayPause: 'talker' }, {}, ['Pause']],
] as const)('%j for %j', async (recording, who, may) => {
  await open(recording, who);
  expect(buttons()).toEqual(may);
});

test('what the exchange refuses is said; a talk that is not recorded says nothing', async () => {
  await open(
    { state: 'on', mayPause: 'talker' },
    { answer: new Refusal(409, 'notNow', 'Nothing of this call is recorded now.') },
  );
  await page.press('Pause');
  await page.settled();
  expect(page.said()).toContain('Nothing of this call is recorded now.');
  page.close();
  await open(null);
  expect(page.text()).toBe('');
});
