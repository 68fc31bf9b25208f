import type { FromGateway } from '@night-bell/core/devices/protocol';
import { FileParts, type Incoming } from './file-parts.ts';

type Recorded = FromGateway & {
  kind: 'recording' | 'recordingPart' | 'talk' | 'talkPart' | 'greeting' | 'greetingPart';
};

/** What becomes of what is recorded, by what it is recorded of. */
export interface RecordingBook {
  /** The sentence for what nobody waits for. */
  none: string;
  /** Whether it is recorded now. */
  isRecorded: (of: { callId: string; part: number }) => boolean;
  /** Whether it was, and its sound has not come. */
  lacksSound: (callId: string, part: number) => Promise<boolean>;
  /** Keeps it. A sentence when it is not taken. */
  keep: (callId: string, part: number, file: Buffer) => Promise<string | null>;
}

/** What is done with them, wherever the exchange is. */
export type KeptRecordings = Pick<RecordingBook, 'lacksSound' | 'keep'>;

/** What gateways recorded: a message in voicemail, a talk. It comes a moment before or after the call is over. */
export class Recordings {
  private readonly parts: FileParts;
  private readonly book: RecordingBook;

  constructor(incoming: Incoming, book: RecordingBook) {
    this.parts = new FileParts(incoming);
    this.book = book;
  }

  /** Takes a part, or the last of them. A sentence when it is not taken. */
  async hear(message: Recorded): Promise<string | null> {
    const { kind, callId, file } = message;
    const part = 'part' in message ? message.part : 0;
    const name = `${callId}.${part}`;
    if (!this.book.isRecorded({ callId, part }) && !(await this.book.lacksSound(callId, part))) {
      this.parts.drop(name);
      return this.book.none;
    }
    if (kind.endsWith('Part')) return this.parts.add(name, file);
    const whole = this.parts.take(name, file);
    return typeof whole === 'string' ? whole : this.book.keep(callId, part, whole);
  }
}
