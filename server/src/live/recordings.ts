import type { FromGateway } from '@night-bell/core/devices/protocol';
import { FileParts, incomingRecording } from './file-parts.ts';

/** Keeps what was recorded of a call. A sentence when it is not taken. */
export type KeepRecording = (callId: string, file: Buffer) => Promise<string | null>;

/** What gateways recorded in voicemail. It comes a moment before or after the call is over. */
export class Recordings {
  private readonly parts = new FileParts(incomingRecording);
  private readonly isRecorded: (callId: string) => boolean;
  private readonly hasMessage: (callId: string) => Promise<boolean>;
  private readonly keep: KeepRecording;

  /**
   * @param isRecorded whether the call leaves a message now
   * @param hasMessage whether it left one whose sound has not come
   */
  constructor(
    isRecorded: (callId: string) => boolean,
    hasMessage: (callId: string) => Promise<boolean>,
    keep: KeepRecording,
  ) {
    this.isRecorded = isRecorded;
    this.hasMessage = hasMessage;
    this.keep = keep;
  }

  /** Takes a part, or the last of them. A sentence when it is not taken. */
  async hear({
    kind,
    callId,
    file,
  }: FromGateway & { kind: 'recording' | 'recordingPart' }): Promise<string | null> {
    if (!this.isRecorded(callId) && !(await this.hasMessage(callId))) {
      this.parts.drop(callId);
      return 'This call left no message, or its sound is there.';
    }
    if (kind === 'recordingPart') return this.parts.add(callId, file);
    const whole = this.parts.take(callId, file);
    return typeof whole === 'string' ? whole : this.keep(callId, whole);
  }
}
