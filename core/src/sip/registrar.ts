import {
  type DigestAlgorithm,
  type DigestSecret,
  challengeHeader,
  digestMatches,
  readAnswer,
} from './digest.ts';
import { type SipRequest, type SipResponse, respond, sipHeader, sipUser } from './message.ts';

/** Seconds a registration may last: shorter is answered with 423 (RFC 3261, section 10.3), longer is cut. */
export const shortestRegistration = 60;
export const longestRegistration = 3_600;

export interface RegistrarContext {
  realm: string;
  /** Null for an account that does not exist. */
  secretOf: (account: string) => DigestSecret | null;
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
      why: 'unknown account' | 'wrong secret' | 'malformed' | 'too brief';
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
    return { response: reply(400, 'Bad Request'), outcome: { kind: 'refused', account, why: 'malformed' } };
  }
  const header = sipHeader(request, 'Authorization');
  if (header === undefined) return challenge(false);
  const answer = readAnswer(header);
  if (answer === null) {
    return { response: reply(400, 'Bad Request'), outcome: { kind: 'refused', account, why: 'malformed' } };
  }
  const state = context.nonceState(answer.nonce, answer.count);
  if (state !== 'fresh') return challenge(state === 'stale');
  const secret = context.secretOf(account);
  const proven =
    secret !== null &&
    answer.username === account &&
    answer.realm === context.realm &&
    answer.uri === request.uri &&
    digestMatches(secret, 'REGISTER', answer);
  if (!proven) {
    const why = secret === null ? 'unknown account' : 'wrong secret';
    return { response: reply(403, 'Forbidden'), outcome: { kind: 'refused', account, why } };
  }
  return bind(account);

  function challenge(stale: boolean) {
    const nonce = context.freshNonce();
    const offers: [string, string][] = (['SHA-256', 'MD5'] satisfies DigestAlgorithm[]).map((algorithm) => [
      'WWW-Authenticate',
      challengeHeader({ realm: context.realm, nonce, algorithm, stale }),
    ]);
    return { response: reply(401, 'Unauthorized', offers), outcome: { kind: 'challenged' } as const };
  }

  function bind(user: string): { response: SipResponse; outcome: RegisterOutcome } {
    const contact = sipHeader(request, 'Contact') ?? '';
    const asked = Number(
      /;expires=(\d+)/i.exec(contact)?.[1] ?? sipHeader(request, 'Expires') ?? longestRegistration,
    );
    if (asked === 0) return { response: reply(200, 'OK'), outcome: { kind: 'unregistered', account: user } };
    if (asked < shortestRegistration) {
      return {
        response: reply(423, 'Interval Too Brief', [['Min-Expires', String(shortestRegistration)]]),
        outcome: { kind: 'refused', account: user, why: 'too brief' },
      };
    }
    const expires = Math.min(asked, longestRegistration);
    const address = /<([^>]+)>/.exec(contact)?.[1] ?? contact.split(';')[0]!;
    return {
      response: reply(200, 'OK', [['Contact', `<${address}>;expires=${expires}`]]),
      outcome: { kind: 'registered', account: user, contact: address, expires },
    };
  }
}
