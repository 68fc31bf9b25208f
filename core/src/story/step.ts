import type { StoryRecord } from './records.ts';

export type RopeMark = 'knot' | 'hitch' | 'coil' | 'missed' | 'lifted' | 'sally' | 'loop' | 'fray' | 'now';

/** One knot of the rope, and one line of the list beside it. */
export interface RopeStep {
  mark: RopeMark;
  /** Instant, UTC milliseconds. */
  at: number;
  title: string;
  reason: string;
  /** A word or two for the short rope. */
  caption: string;
  /** What would have led elsewhere. */
  slack: string[];
  /** Length of a wait or a talk. */
  ms: number;
  /** What was said, for whoever wants to hear it: prompts of the library, or words of a voice. */
  sounds: StepSound[];
  /** The decision behind this step, as an index into the story. */
  decision: number | null;
}

/** A prompt of the library, or words of a voice in a language (BCP 47; null for the usual one). */
export interface StepSound {
  promptId: string | null;
  words: string;
  language: string | null;
}

/** A step before the reader has filled it up. */
export type NewStep = Pick<RopeStep, 'mark' | 'at' | 'title' | 'reason' | 'caption'> & Partial<RopeStep>;

export type Of<Kind extends StoryRecord['kind']> = Extract<StoryRecord, { kind: Kind }>;
