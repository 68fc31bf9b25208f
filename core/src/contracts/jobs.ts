import {
  choice,
  id,
  instant,
  list,
  nullable,
  object,
  type Out,
  text,
  usually,
  whole,
  flag,
} from './parts.ts';

/** What is done behind a page that need not be waited for. */
export const jobKinds = ['speakPrompts', 'importContacts', 'importRegions', 'saveList'] as const;
export type JobKind = (typeof jobKinds)[number];

/** How a job stands. One that was stopped has done what it had done by then. */
export const job = object({
  id,
  kind: choice(...jobKinds),
  /** 'Speaking 12 prompts'. */
  title: text(200),
  state: choice('waiting', 'running', 'done', 'failed', 'stopped'),
  /** Of `total`, which is null where it is not known. */
  done: whole(0, 1_000_000_000),
  total: nullable(whole(0, 1_000_000_000)),
  /** What it does just now, where that takes its time: 'Checking against the other tables'. */
  doing: nullable(text(200)),
  /** Rows that were left out, the first of them; the row counts from 1, without the header. */
  leftOut: list(object({ row: whole(1, 1_000_000_000), cell: text(60), detail: text(300) }), 200),
  /** What became of it, in a sentence; null before it ends. */
  outcome: nullable(text(1_000)),
  /** The name of the file it made, for as long as that is kept. */
  file: nullable(text(80)),
  by: nullable(text(80)),
  byId: nullable(id),
  at: instant,
  endedAt: nullable(instant),
});
export type JobView = Out<typeof job>;

/** Prompts to be spoken; without any, all whose sound is missing or says other words than are written. */
export const promptsToSpeak = object({
  promptIds: usually(list(id, 5_000), []),
  /** Callers hear each as soon as it is spoken. */
  publish: usually(flag, false),
});
