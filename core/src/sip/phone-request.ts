import type { Transport } from '../phones/catalogue.ts';
import type { SipRequest } from './message.ts';

/** A phone that registered, as we speak to it. */
export interface RegisteredPhone {
  account: string;
  /** Where it said that it can be reached. */
  contact: string;
  domain: string;
  callId: string;
  sequence: number;
  transport: Transport;
}

/**
 * A request of ours to a registered phone (RFC 3261, 8.1.1), outside of any dialog.
 *
 * @param from who asks: the address without its scheme, such as `account@domain`
 * @param more headers of this method, behind those that every request has
 */
export function phoneRequest(
  method: SipRequest['method'],
  { account, contact, domain, callId, sequence, transport }: RegisteredPhone,
  { from, more, body }: { from: string; more: SipRequest['headers']; body: string },
): SipRequest {
  const via = `SIP/2.0/${transport.toUpperCase()} ${domain};branch=z9hG4bK${callId}${sequence};rport`;
  return {
    method,
    uri: contact,
    headers: [
      ['Via', via],
      ['Max-Forwards', '70'],
      ['From', `<sip:${from}>;tag=${callId}`],
      ['To', `<sip:${account}@${domain}>`],
      ['Call-ID', callId],
      ['CSeq', `${sequence} ${method}`],
      ...more,
    ],
    body,
  };
}
