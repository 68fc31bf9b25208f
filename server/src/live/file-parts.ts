export interface Incoming {
  /** 'A fax', 'A recording': for sentences. */
  word: string;
  mostBytes: number;
  /** What a file of this kind begins with, and the sentence for one that does not. */
  begins: string;
  else: string;
}

export const incomingFax: Incoming = {
  ...{ word: 'A fax', mostBytes: 20 * 1024 * 1024, begins: '%PDF-', else: 'A fax comes as a PDF.' },
};
/** Ten minutes of 16 bits at 8 kHz are 9.6 MB. */
export const incomingRecording: Incoming = {
  ...{ word: 'A recording', mostBytes: 12 * 1024 * 1024, begins: 'RIFF', else: 'A recording comes as WAV.' },
};
/** An hour of 8 bits at 8 kHz is 29 MB, of 16 bits twice that. */
export const incomingTalk: Incoming = {
  ...{ word: 'A recording', mostBytes: 60 * 1024 * 1024, begins: 'RIFF', else: 'A recording comes as WAV.' },
};
/** Files of all gateways together, in whole files. */
const mostAtOnce = 4;

/** Files as they come in, part by part, bounded: each, and all that are coming in. */
export class FileParts {
  private readonly incoming: Incoming;
  private readonly parts = new Map<string, Buffer[]>();
  private held = 0;

  constructor(incoming: Incoming) {
    this.incoming = incoming;
  }

  /** Keeps a part. A sentence when it cannot; what came before of this file is dropped then. */
  add(callId: string, base64: string): string | null {
    const part = Buffer.from(base64, 'base64');
    const before = this.parts.get(callId) ?? [];
    const { word, mostBytes } = this.incoming;
    if (sizeOf(before) + part.length > mostBytes)
      return this.refuse(callId, `${word} has at most ${mostBytes / 1024 / 1024} MB.`);
    if (this.held + part.length > mostAtOnce * mostBytes)
      return this.refuse(callId, 'Too many files come in at once. Send this one again in a moment.');
    this.parts.set(callId, [...before, part]);
    this.held += part.length;
    return null;
  }

  /** The whole file, when all its parts came and are a PDF; else why not. */
  take(callId: string, last: string): Buffer | string {
    const fault = this.add(callId, last);
    if (fault !== null) return fault;
    const file = Buffer.concat(this.parts.get(callId) ?? []);
    this.drop(callId);
    const { begins } = this.incoming;
    return file.subarray(0, begins.length).toString('latin1') === begins ? file : this.incoming.else;
  }

  /** The call is over, whatever came of it. */
  drop(callId: string): void {
    this.held -= sizeOf(this.parts.get(callId) ?? []);
    this.parts.delete(callId);
  }

  private refuse(callId: string, why: string): string {
    this.drop(callId);
    return why;
  }
}

function sizeOf(parts: Buffer[]): number {
  return parts.reduce((sum, part) => sum + part.length, 0);
}
