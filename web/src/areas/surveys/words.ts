import type { SurveyRow } from '@night-bell/core/contracts/surveys';

export type SurveyView = SurveyRow;
export type SurveyBy = SurveyRow['by'];

/** By what answers are put together, as one chooses it. */
export const surveyBy: readonly { value: SurveyBy; title: string }[] = [
  { value: 'person', title: 'Agent' },
  { value: 'queue', title: 'Queue' },
  { value: 'plan', title: 'Plan' },
  { value: 'question', title: 'Question' },
];
