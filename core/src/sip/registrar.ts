import {
  type DigestAlgorithm,
  type DigestSecret,
  challengeHeader,
  digestMatches,
  readAnswer,
} from './digest.ts';
import type { Transport } from '../phones/catalogue.ts';
import { isPrivateAddress, sipHost, transportOf } from './addresses.ts';
import type { RegistrationFault } from './faults.ts';
import { type SipRequest, type SipResponse, respond, sipHeader, sipUser } from './message.ts';

/** Seconds a registration may last: shorter is answered with 423 (RFC 3261, section 10.3), longer is cut. */
export const shortestRegistration = 60;
export const longestRegistration = 3_600;

/** What the registrar knows of an account. */
export interface Account {
  secret: DigestSecret;
  /** The only transport it may come by. */
  transport: Transport;
  /** Its own address is not the one it is reached at: answers go where its messages come from (RFC 3581). */
  behindRouter: boolean;
}

export interface RegistrarContext {
  /** Also the domain that accounts are of. */
  realm: string;
  /** Null for an account that does not exist. */
  accountOf: (account: string) => Account | null;
  /** The address the message came from, when the transport tells. */
  source: string | null;
  freshNonce: () => string;
  /** 'foreign' was never given out here; 'stale' is too old; 'replayed' reuses a count. */
  nonceState: (nonce: string, count: string) => 'fresh' | 'stale' | 'foreign' | 'replayed';
  tag: string;
}

/** What a REGISTER came to, beside its answer. */
export type RegisterOutcome =
  | { kind: 'challenged' }
  | { kind: 'registered'; account: string; contact: string; expires: number }
  | { kind: 'unregistered'; account: string }
  | {
      kind: 'refused';
      account: string | null;
      why: Exclude<RegistrationFault, 'no codec in common' | 'registration expired'>;
      /** What was seen, for the words of the fault. */
      detail: string;
    };

/**
 * Answers a REGISTER (RFC 3261, section 10.3) with digest authentication (section 22, RFC 8760). Sans-I/O: nonces and
 * accounts come from the context. An unknown account is answered like a wrong secret.
 */
export function answerRegister(
  request: SipRequest,
  context: RegistrarContext,
): { response: SipResponse; outcome: RegisterOutcome } {
  const account = sipUser(sipHeader(request, 'To') ?? '');
  const reply = (status: number, reason: string, more: [string, string][] = []) =>
    respond(request, status, reason, context.tag, more);
  if (account === null || request.method !== 'REGISTER') {
    return refuse(400, 'Bad Request', 'malformed');
  }
  const asked = sipHost(request.uri);
  if (asked !== context.realm) return refuse(404, 'Not Found', 'wrong server', asked ?? request.uri);
  const header = sipHeader(request, 'Authorization');
  if (header === undefined) return challenge(false);
  const answer = readAnswer(header);
  if (answer === null) {
    return refuse(400, 'Bad Request', 'malformed');
  }
  const state = context.nonceState(answer.nonce, answer.count);
  if (state !== 'fresh') return challenge(state === 'stale');
  const known = context.accountOf(account);
  const proven =
    known !== null &&
    answer.username === account &&
    answer.realm === context.realm &&
    answer.uri === request.uri &&
    digestMatches(known.secret, 'REGISTER', answer);
  if (!proven)
    return known === null
      ? refuse(403, 'Forbidden', 'unknown account', account)
      : refuse(403, 'Forbidden', 'wrong secret');
  const transport = transportOf(request);
  if (transport !== known.transport)
    return refuse(
      403,
      'Forbidden',
      'wrong transport',
      `${transport?.toUpperCase() ?? 'another transport'}; ${known.transport.toUpperCase()} is expected`,
      `Use ${known.transport.toUpperCase()}`,
    );
  return bind(account, known);

  function refuse(
    status: number,
    reason: string,
    why: (RegisterOutcome & { kind: 'refused' })['why'],
    detail = '',
    warning?: string,
  ): { response: SipResponse; outcome: RegisterOutcome } {
    // RFC 3261, 20.43: 399 is a warning of its own words.
    const more: [string, string][] =
      warning === undefined ? [] : [['Warning', `399 ${context.realm} "${warning}"`]];
    return { response: reply(status, reason, more), outcome: { kind: 'refused', account, why, detail } };
  }

  function challenge(stale: boolean) {
    const nonce = context.freshNonce();
    const offers: [string, string][] = (['SHA-256', 'MD5'] satisfies DigestAlgorithm[]).map((algorithm) => [
      'WWW-Authenticate',
      challengeHeader({ realm: context.realm, nonce, algorithm, stale }),
    ]);
    return { response: reply(401, 'Unauthorized', offers), outcome: { kind: 'challenged' } as const };
  }

  function bind(
    user: string,
    { behindRouter }: Account,
  ): { response: SipResponse; outcome: RegisterOutcome } {
    const contact = sipHeader(request, 'Contact') ?? '';
    const asked = Number(
      /;expires=(\d+)/i.exec(contact)?.[1] ?? sipHeader(request, 'Expires') ?? longestRegistration,
    );
    if (asked === 0) return { response: reply(200, 'OK'), outcome: { kind: 'unregistered', account: user } };
    if (asked < shortestRegistration) {
      return {
        response: reply(423, 'Interval Too Brief', [['Min-Expires', String(shortestRegistration)]]),
        outcome: { kind: 'refused', account: user, why: 'too brief', detail: `${asked} s` },
      };
    }
    const expires = Math.min(asked, longestRegistration);
    const address = /<([^>]+)>/.exec(contact)?.[1] ?? contact.split(';')[0]!;
    const host = sipHost(address);
    const hidden =
      host !== null && context.source !== null && host !== context.source && isPrivateAddress(host);
    if (hidden && !behindRouter)
      return refuse(
        403,
        'Forbidden',
        'behind a router',
        `${host}, and its messages come from ${context.source}`,
        'Address not reachable',
      );
    return {
      response: reply(200, 'OK', [['Contact', `<${address}>;expires=${expires}`]]),
      outcome: {
        kind: 'registered',
        account: user,
        contact: hidden ? `sip:${user}@${context.source}` : address,
        expires,
      },
    };
  }
}
