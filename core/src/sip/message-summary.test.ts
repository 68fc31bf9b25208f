import { describe, expect, test } from 'vitest';
import { readSip, type SipRequest, writeSip } from './message.ts';
import { messageSummaryRequest, readMessageSummary } from './message-summary.ts';

const to = {
  ...{ account: '2001', contact: 'sip:2001@192.0.2.5', domain: 'night-bell', callId: 'p1' },
  ...{ sequence: 3, transport: 'tls' as const },
};
const notify = (body: string, event = 'message-summary'): SipRequest => ({
  ...{ method: 'NOTIFY', uri: 'sip:a@192.0.2.5', body },
  headers: [['Event', event]],
});

describe('waiting messages of a phone (RFC 3842)', () => {
  test.each([
    { fresh: 2, old: 8 },
    { fresh: 0, old: 3 },
    { fresh: 0, old: 0 },
  ])('%o is read as it was written, over the wire', (summary) => {
    const read = readSip(writeSip(messageSummaryRequest(to, summary))) as SipRequest;
    expect(read.headers).toContainEqual(['Content-Type', 'application/simple-message-summary']);
    expect(readMessageSummary(read)).toEqual(summary);
    expect(read.body).toContain(`Messages-Waiting: ${summary.fresh > 0 ? 'yes' : 'no'}`);
  });

  test('the example of section 5.2: two new of ten, none urgent', () => {
    const body =
      'Messages-Waiting: yes\r\nMessage-Account: sip:alice@vmail.example.com\r\nVoice-Message: 2/8 (0/2)\r\n';
    expect(readMessageSummary(notify(body))).toEqual({ fresh: 2, old: 8 });
  });

  test('without counts, that something waits is still said', () => {
    expect(readMessageSummary(notify('Messages-Waiting: yes\r\n'))).toEqual({ fresh: 1, old: 0 });
    expect(readMessageSummary(notify('Messages-Waiting: no\r\n'))).toEqual({ fresh: 0, old: 0 });
  });

  test('what is about something else, or broken, says nothing', () => {
    expect(readMessageSummary(notify('Messages-Waiting: yes\r\n', 'dialog'))).toBeNull();
    expect(readMessageSummary(notify('Messages-Waiting: perhaps\r\n'))).toBeNull();
    expect(readMessageSummary({ ...notify('Messages-Waiting: yes'), method: 'INFO' })).toBeNull();
  });
});
