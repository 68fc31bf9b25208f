/** Who may pause a recording, and let it go on: whoever talks and supervisors, supervisors only, or nobody. */
export const mayPause = ['talker', 'supervisors', 'nobody'] as const;
export type MayPause = (typeof mayPause)[number];

/** Whether a queue's talks are recorded: as the plan says, all of them, or none whatever the plan says. */
export const queueRecording = ['asPlan', 'always', 'never'] as const;
export type QueueRecording = (typeof queueRecording)[number];
