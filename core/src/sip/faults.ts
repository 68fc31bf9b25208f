/** What keeps a phone or trunk from working, as the registrar or the other side found it. Also what the exchange is told. */
export type RegistrationFault =
  | 'unknown account'
  | 'wrong secret'
  | 'malformed'
  | 'too brief'
  | 'wrong transport'
  | 'wrong server'
  | 'behind a router'
  | 'no codec in common'
  | 'registration expired';

/** What mends it from here, in one press; null when it is mended on the device. */
export type Mend = 'newSetUp' | 'useTransport' | 'behindRouter' | 'allowCodecs' | 'askAgain' | null;

/** A fault in words: what is wrong, what follows from it, and what mends it. */
export interface FaultWords {
  what: string;
  mend: Mend;
  /** The words of the button. */
  button: string;
}

/** `detail` is what was seen: the transport used, the codecs offered, the address given. */
export function faultWords(fault: RegistrationFault, detail: string): FaultWords {
  switch (fault) {
    case 'unknown account':
      return {
        what: `The phone gives an account that does not exist${detail === '' ? '' : ` (${detail})`}. It was set up by hand with a slip, or for another installation.`,
        mend: 'newSetUp',
        button: 'Make a new set-up',
      };
    case 'wrong secret':
      return {
        what: 'The phone knows the account but not its secret. The secret was mistyped, or a newer one was made since.',
        mend: 'newSetUp',
        button: 'Make a new set-up',
      };
    case 'malformed':
      return {
        what: 'The phone sends something that is no proper REGISTER (RFC 3261). Look at the messages below.',
        mend: 'newSetUp',
        button: 'Make a new set-up',
      };
    case 'too brief':
      return {
        what: `The phone wants to register for ${detail} only; 60 s is the least. It was told so (423) and insists.`,
        mend: 'newSetUp',
        button: 'Make a new set-up',
      };
    case 'wrong transport':
      return {
        what: `The phone registers over ${detail}. Either set it to what is expected, or allow what it uses.`,
        mend: 'useTransport',
        button: 'Allow what it uses',
      };
    case 'wrong server':
      return {
        what: `The phone asks for the server ${detail}, which is not this one.`,
        mend: 'newSetUp',
        button: 'Make a new set-up',
      };
    case 'behind a router':
      return {
        what: `The phone says it is at ${detail}. Calls sent to the first address would never arrive: a router stands between.`,
        mend: 'behindRouter',
        button: 'It is behind a router',
      };
    case 'no codec in common':
      return {
        what: `The phone offers ${detail}, and none of these is allowed for it: it would ring, and nobody would hear anybody.`,
        mend: 'allowCodecs',
        button: 'Allow its codecs',
      };
    case 'registration expired':
      return {
        what: 'The phone has not registered again in time. It is switched off, asleep, or lost its network.',
        mend: 'askAgain',
        button: 'Ask it to register',
      };
  }
}
