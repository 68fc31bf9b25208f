import type { Transport } from '../phones/catalogue.ts';
import { type DigestSecret, answerHeader, digestResponse, readChallenge } from './digest.ts';
import { type SipRequest, type SipResponse, sipHeader } from './message.ts';

/** What a phone needs to register. */
export interface RegisteringPhone {
  account: string;
  domain: string;
  /** How its messages travel; named in the Via. */
  transport: Transport;
  contact: string;
  secret: DigestSecret;
  callId: string;
  expires: number;
}

/** The REGISTER a phone sends; with `unauthorized`, the one that answers that 401. */
export function registerRequest(
  phone: RegisteringPhone,
  sequence: number,
  branch: string,
  unauthorized: SipResponse | null = null,
): SipRequest | null {
  const uri = `sip:${phone.domain}`;
  const request: SipRequest = {
    method: 'REGISTER',
    uri,
    headers: [
      [
        'Via',
        `SIP/2.0/${phone.transport.toUpperCase()} ${phone.account}.invalid;branch=z9hG4bK${branch};rport`,
      ],
      ['Max-Forwards', '70'],
      ['From', `<sip:${phone.account}@${phone.domain}>;tag=${phone.callId}`],
      ['To', `<sip:${phone.account}@${phone.domain}>`],
      ['Call-ID', phone.callId],
      ['CSeq', `${sequence} REGISTER`],
      ['Contact', `<${phone.contact}>`],
      ['Expires', String(phone.expires)],
    ],
    body: '',
  };
  if (unauthorized === null) return request;
  const challenge = readChallenge(sipHeader(unauthorized, 'WWW-Authenticate') ?? '');
  if (challenge === null) return null;
  const parts = {
    nonce: challenge.nonce,
    uri,
    algorithm: challenge.algorithm,
    count: '00000001',
    clientNonce: branch,
  };
  const response = digestResponse(phone.secret, 'REGISTER', parts);
  request.headers.push([
    'Authorization',
    answerHeader({ username: phone.account, realm: challenge.realm, response, ...parts }),
  ]);
  return request;
}
