/** Who may pause a recording, and let it go on: whoever talks and supervisors, supervisors only, or nobody. */
export const mayPause = ['talker', 'supervisors', 'nobody'] as const;
export type MayPause = (typeof mayPause)[number];

/** Whether a queue's talks are recorded: as the plan says, all of them, or none whatever the plan says. */
export const queueRecording = ['asPlan', 'always', 'never'] as const;
export type QueueRecording = (typeof queueRecording)[number];

/** What a plan or a queue wants of a caller's talks. Data as it is. */
export interface RecordingWish {
  on: boolean;
  by: 'plan' | 'queue';
  mayPause: MayPause;
}

/** A talk that is recorded. Data as it is. */
export interface TalkRecording {
  /** Of this call, from 1. */
  part: number;
  personId: string;
  queueId: string | null;
  planId: string | null;
  from: number;
  pausedAt: number | null;
  /** By hand, or for as long as the caller is on hold. */
  pausedBy: 'hand' | 'hold' | null;
  pausedMs: number;
  mayPause: MayPause;
}

/** What is done about the recording of a talk. */
export type RecordTalk = 'start' | 'pause' | 'resume' | 'stop';
