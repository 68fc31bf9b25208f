/** A text conversation without a text for so many minutes is over (docs/definitions.md, "Who may be rung when"). */
export const openForMinutes = 10;
