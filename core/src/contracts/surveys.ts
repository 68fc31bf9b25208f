import { choice, id, list, nullable, object, type Out, text, whole } from './parts.ts';

export const surveyPath = '/api/surveys';
/** By what answers are put together. */
export const surveyBy = ['person', 'queue', 'plan', 'question'] as const;

const many = whole(0, 1_000_000_000);
/** Answers to one question, of one person, queue or plan: how many of each from 1 to 5, and the first, last and mean. */
export const surveyRow = object({
  by: choice(...surveyBy),
  /** Null for a question, and for who or what is not known. */
  itemId: nullable(id),
  name: text(200),
  question: text(60),
  answers: many,
  /** From 1 to 5. */
  counts: list(many, 5),
  /** In hundredths. */
  mean: whole(100, 500),
});
export type SurveyRow = Out<typeof surveyRow>;
