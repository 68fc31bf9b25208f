import type { FromGateway, ToGateway } from '@night-bell/core/devices/protocol';
import type { Random } from '@night-bell/core/random/random';
import { messageSound } from './message-sound.ts';
import { TalkRecorder } from './talk-recorder.ts';

/** Characters of base64 in one message; a multiple of four, so that each part is whole. */
const longestPart = 600_000;

/** What is said in calls here and recorded: messages in voicemail, talks, greetings; sent as sound of real length. */
export class CallSounds {
  private readonly random: Random;
  private readonly say: (message: FromGateway) => void;
  /** Callers who leave a message, and since when (UTC milliseconds): the greeting is over then. */
  private readonly messages = new Map<string, number>();
  private readonly recorder = new TalkRecorder();

  constructor(random: Random, say: (message: FromGateway) => void) {
    this.random = random;
    this.say = say;
  }

  /** A caller hears a greeting so long, and leaves a message. */
  message(callId: string, greetingSeconds: number): void {
    this.messages.set(callId, Date.now() + greetingSeconds * 1000);
  }

  /** The call is over: what the caller said since the tone is sent. */
  messageOver(callId: string): void {
    const since = this.messages.get(callId);
    this.messages.delete(callId);
    if (since === undefined) return;
    this.send((Date.now() - since) / 1000, (file, isLast) =>
      this.say({ kind: isLast ? 'recording' : 'recordingPart', callId, file }),
    );
  }

  /** A talk or a greeting is recorded, paused, or over and sent. */
  hear(message: ToGateway & { kind: 'recordTalk' | 'recordGreeting' }): void {
    const { kind, callId, does } = message;
    if (kind === 'recordTalk') {
      const { part } = message;
      this.send(this.recorder.take(`${callId}.${part}`, does), (file, isLast) =>
        this.say({ kind: isLast ? 'talk' : 'talkPart', callId, part, file }),
      );
    } else
      this.send(this.recorder.take(`${callId} greeting`, does), (file, isLast) =>
        this.say({ kind: isLast ? 'greeting' : 'greetingPart', callId, file }),
      );
  }

  /** Speech of that length, in parts that fit a message; nothing for no time at all. */
  private send(seconds: number | null, send: (part: string, isLast: boolean) => void): void {
    if (seconds === null || !(seconds > 0)) return;
    void messageSound(seconds, Math.floor(this.random() * 1_000)).then((file) => {
      const text = file.toString('base64');
      const last = text.length - (text.length % longestPart || longestPart);
      for (let at = 0; at < last; at += longestPart) send(text.slice(at, at + longestPart), false);
      send(text.slice(Math.max(0, last)), true);
    });
  }
}
