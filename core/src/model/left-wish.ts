/** What a step of a plan wants done once the caller has left. Data as it is. */
export interface LeftWish {
  stepId: string;
  always: boolean;
  /** Empty for no note; `numberId` for no text. */
  note: string;
  numberId: string;
  words: string;
  hoursId: string;
}
