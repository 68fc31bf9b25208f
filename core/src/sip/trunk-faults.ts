import { type SipResponse, sipHeader } from './message.ts';

/** What keeps a trunk from working, as the provider's answers show. */
export type TrunkFault =
  | 'wrong secret'
  | 'unknown account'
  | 'wrong transport'
  | 'certificate wanted'
  | 'provider overloaded'
  | 'no answer'
  | 'not reached'
  | 'no secret'
  | 'refused';

/** What mends it from here; null when it is mended at the provider, or mends itself. */
export type TrunkMend = 'typeSecret' | 'useTransport' | 'makeCertificate' | 'tryAgain' | null;

/** Reads what a final answer to REGISTER means: the status (RFC 3261, 21), and the warning where there is one. */
export function trunkFaultOf(answer: SipResponse): { fault: TrunkFault; detail: string } {
  const warning = /"([^"]*)"/.exec(sipHeader(answer, 'Warning') ?? '')?.[1] ?? '';
  const use = /Use (UDP|TCP|TLS)/i.exec(warning)?.[1];
  if (use !== undefined) return { fault: 'wrong transport', detail: use.toUpperCase() };
  if (/certificate/i.test(warning)) return { fault: 'certificate wanted', detail: warning };
  if (answer.status === 401 || answer.status === 403) return { fault: 'wrong secret', detail: warning };
  if (answer.status === 404) return { fault: 'unknown account', detail: warning };
  if (answer.status >= 500)
    return { fault: 'provider overloaded', detail: `${answer.status} ${answer.reason}` };
  return { fault: 'refused', detail: `${answer.status} ${answer.reason}` };
}

export function trunkFaultWords(
  fault: TrunkFault,
  detail: string,
): { what: string; mend: TrunkMend; button: string } {
  switch (fault) {
    case 'wrong secret':
      return {
        what: 'The provider refuses the account or its secret. Copy the secret from the provider again.',
        mend: 'typeSecret',
        button: 'Type the secret',
      };
    case 'no secret':
      return {
        what: 'This trunk is to register and has no secret yet.',
        mend: 'typeSecret',
        button: 'Type the secret',
      };
    case 'unknown account':
      return {
        what: 'The provider does not know this account. Compare it with what the provider gave you.',
        mend: null,
        button: '',
      };
    case 'wrong transport':
      return {
        what: `The provider takes ${detail} only.`,
        mend: 'useTransport',
        button: `Use ${detail}`,
      };
    case 'certificate wanted':
      return {
        what: 'The provider wants to know us by a certificate, and this trunk has none that is good.',
        mend: 'makeCertificate',
        button: 'Make a certificate',
      };
    case 'provider overloaded':
      return {
        what: `The provider answers ${detail}: it is overloaded or being repaired. It is tried again by itself.`,
        mend: 'tryAgain',
        button: 'Try now',
      };
    case 'no answer':
      return {
        what: 'The provider does not answer. Host, port or transport may be wrong, or a firewall stands between.',
        mend: 'tryAgain',
        button: 'Try now',
      };
    case 'not reached':
      return {
        what: 'No gateway reaches this host. Compare it with what the provider gave you.',
        mend: 'tryAgain',
        button: 'Try now',
      };
    case 'refused':
      return { what: `The provider answers ${detail}.`, mend: 'tryAgain', button: 'Try now' };
  }
}
