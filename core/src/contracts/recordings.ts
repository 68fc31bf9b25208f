import { flag, id, instant, list, nullable, object, type Out, decimal, text, whole } from './parts.ts';

/** A talk of a call that was recorded; its sound may not be there (yet). */
export const recordingView = object({
  callId: id,
  part: whole(1, 1_000),
  personId: id,
  personName: text(200),
  at: instant,
  seconds: decimal,
  pausedSeconds: decimal,
  sound: nullable(object({ seconds: decimal, peaks: list(whole(0, 255), 2_000) })),
  /** Whether whoever asks may hear it. */
  mayHear: flag,
});
export type RecordingView = Out<typeof recordingView>;

export const recordingSettingsPath = '/api/recording-settings';
/** For the company: how long recordings are kept, and whether agents hear their own. */
export const recordingSettings = object({ keepDays: whole(1, 3_650), agentsHearOwn: flag });
export type RecordingSettings = Out<typeof recordingSettings>;

/** What is kept now. */
export const recordingsHeld = object({ count: whole(0, 1_000_000_000), megabytes: decimal, isKept: flag });
export type RecordingsHeld = Out<typeof recordingsHeld>;
export const recordingSettingsView = object({ settings: recordingSettings, held: recordingsHeld });
export type RecordingSettingsView = Out<typeof recordingSettingsView>;
