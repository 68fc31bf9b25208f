import type { FromGateway } from '@night-bell/core/devices/protocol';
import { openBoxOf } from './call-stage.ts';
import { Faxes } from './faxes.ts';
import { incomingRecording, incomingTalk } from './file-parts.ts';
import type { KeepFax } from './gateway.ts';
import type { Host } from './host.ts';
import { type KeptRecordings, Recordings } from './recordings.ts';

/** What becomes of the files that gateways send. */
export interface FileBooks {
  keepFax: KeepFax;
  voicemail: KeptRecordings;
  talks: KeptRecordings;
  keepGreeting: (boxId: string, file: Buffer) => Promise<string | null>;
}

type FileMessage = FromGateway & {
  kind: 'fax' | 'faxPart' | 'recording' | 'recordingPart' | 'talk' | 'talkPart' | 'greeting' | 'greetingPart';
};

/** Files that gateways send, part by part: faxes, messages, talks, greetings. */
export class IncomingFiles {
  private readonly faxes: Faxes;
  private readonly messages: Recordings;
  private readonly talks: Recordings;
  private readonly greetings: Recordings;

  constructor(host: () => Host | null, { keepFax, voicemail, talks, keepGreeting }: FileBooks) {
    const call = (callId: string) => host()?.exchange.view().calls.get(callId);
    this.faxes = new Faxes(host, keepFax);
    this.messages = new Recordings(incomingRecording, {
      ...voicemail,
      none: 'This call left no message, or its sound is there.',
      isRecorded: ({ callId }) => call(callId)?.activity.kind === 'recording',
    });
    this.talks = new Recordings(incomingTalk, {
      ...talks,
      none: 'Nothing was recorded of this call, or its sound is there.',
      isRecorded: ({ callId, part }) => (call(callId)?.recordings ?? 0) >= part,
    });
    this.greetings = new Recordings(incomingRecording, {
      none: 'Nobody records a greeting in this call.',
      isRecorded: ({ callId }) => openBoxOf(call(callId)) !== null,
      lacksSound: () => Promise.resolve(false),
      keep: async (callId, _part, file) => {
        const boxId = openBoxOf(call(callId));
        return boxId === null ? null : keepGreeting(boxId, file);
      },
    });
  }

  /** Takes a part, or the last of them. A sentence when it is not taken. */
  hear(message: FileMessage): Promise<string | null> {
    switch (message.kind) {
      case 'fax':
      case 'faxPart':
        return this.faxes.hear(message);
      case 'recording':
      case 'recordingPart':
        return this.messages.hear(message);
      case 'talk':
      case 'talkPart':
        return this.talks.hear(message);
      case 'greeting':
      case 'greetingPart':
        return this.greetings.hear(message);
    }
  }

  /** The call is over. */
  drop(callId: string): void {
    this.faxes.drop(callId);
  }
}
