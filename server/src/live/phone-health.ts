import type { Codec, Transport } from '@night-bell/core/phones/catalogue';
import type { RegistrationFault } from '@night-bell/core/sip/faults';

/** One SIP message as it passed, for the ladder. */
export interface PassedMessage {
  at: number;
  from: 'there' | 'here';
  text: string;
}

/** What is known of how one device, or one trunk, talks with us. */
export interface Health {
  messages: PassedMessage[];
  fault: RegistrationFault | null;
  /** What was seen, for the words of the fault. */
  detail: string;
  transport: Transport | null;
  /** What it said it can, in answer to OPTIONS. */
  codecs: Codec[] | null;
  /** Where its messages come from, and how often that changed since the server started. */
  source: string | null;
  moves: number;
}

const mostMessages = 24;

/**
 * The latest messages of every device and what follows from them, in memory of the server that talks with the devices.
 * Devices nobody knows are left out: they could fill it.
 */
export class HealthBook {
  private readonly pages = new Map<string, Health>();

  of(id: string): Health {
    const known = this.pages.get(id);
    if (known !== undefined) return known;
    const fresh: Health = {
      messages: [],
      fault: null,
      detail: '',
      transport: null,
      codecs: null,
      source: null,
      moves: 0,
    };
    this.pages.set(id, fresh);
    return fresh;
  }

  passed(id: string, from: PassedMessage['from'], text: string): void {
    const { messages } = this.of(id);
    messages.push({ at: Date.now(), from, text });
    if (messages.length > mostMessages) messages.shift();
  }

  cameFrom(id: string, source: string | null): void {
    const page = this.of(id);
    if (source === null || source === page.source) return;
    if (page.source !== null) page.moves++;
    page.source = source;
  }

  fault(id: string, fault: RegistrationFault | null, detail = ''): void {
    Object.assign(this.of(id), { fault, detail });
  }
}
