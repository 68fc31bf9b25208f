/** What a queue asks for of a skill, and what is enough after so many seconds. */
export interface WantedSkill {
  skillId: string;
  name: string;
  /** Level 1 to 5. */
  minimum: number;
  /** Later and lower, step by step; 0 asks for the skill no longer. */
  relaxes?: readonly { afterSeconds: number; minimum: number }[];
}
