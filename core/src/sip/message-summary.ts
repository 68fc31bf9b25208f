import type { SipRequest } from './message.ts';
import { phoneRequest, type RegisteredPhone } from './phone-request.ts';

/** How many voice messages wait for an account: not heard yet, and heard. */
export interface MessageSummary {
  fresh: number;
  old: number;
}

/**
 * Tells a phone how many messages wait for its account, by which it lights its lamp (RFC 3842, section 5.2). It is sent
 * without a subscription (section 4.7 of RFC 3265 lets an administrator set that up), as most phones expect.
 */
export function messageSummaryRequest(to: RegisteredPhone, { fresh, old }: MessageSummary): SipRequest {
  const account = `${to.account}@${to.domain}`;
  // Not the calls of OPTIONS: a phone would take one for a repetition of the other.
  const apart = { ...to, callId: `mw${to.callId}` };
  return phoneRequest('NOTIFY', apart, {
    from: account,
    more: [
      ['Event', 'message-summary'],
      ['Subscription-State', 'active'],
      ['Content-Type', 'application/simple-message-summary'],
    ],
    body: [
      `Messages-Waiting: ${fresh > 0 ? 'yes' : 'no'}`,
      `Message-Account: sip:${account}`,
      `Voice-Message: ${fresh}/${old}`,
      '',
    ].join('\r\n'),
  });
}

/** What a NOTIFY says of voice messages; null when it is about something else, or broken. */
export function readMessageSummary(request: SipRequest): MessageSummary | null {
  const event = request.headers.find(([name]) => name.toLowerCase() === 'event')?.[1];
  if (request.method !== 'NOTIFY' || event?.split(';')[0]?.trim() !== 'message-summary') return null;
  const lines = request.body.split(/\r?\n/);
  const waiting = lines.map((line) => /^messages-waiting:\s*(yes|no)\s*$/i.exec(line)?.[1]).find(Boolean);
  if (waiting === undefined) return null;
  const counts = lines
    .map((line) => /^voice-message:\s*(\d+)\/(\d+)/i.exec(line))
    .find((match) => match !== null);
  // The counts may be left out; that something waits is said all the same.
  const none = waiting.toLowerCase() === 'yes' ? 1 : 0;
  return { fresh: Number(counts?.[1] ?? none), old: Number(counts?.[2] ?? 0) };
}
