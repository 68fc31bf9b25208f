/** What a prompt is for. A sound that is not there is replaced by the default of its kind (defaults.ts). */
export const promptKinds = [
  ...(['greeting', 'menu', 'announcement', 'closed', 'unanswered', 'hold', 'waiting'] as const),
  ...(['ringback', 'voicemailGreeting', 'leaveBehind'] as const),
] as const;

export type PromptKind = (typeof promptKinds)[number];
