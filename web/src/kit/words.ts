import type { Candidate } from '@night-bell/core/distribute/candidates';
import type { Direction } from '@night-bell/core/story/facts';

/** The words for states and reasons: one place, so that they are the same on every screen. */

export const agentWords: Record<Candidate['state'], string> = {
  available: 'Available',
  ringing: 'Ringing',
  talking: 'Talking',
  wrappingUp: 'Wrapping up',
  away: 'Away',
  signedOut: 'Signed out',
};

export const phoneWords = {
  registered: 'Registered',
  unregistered: 'Unregistered',
  refused: 'Refused',
  none: 'No phone',
  outside: 'Outside number',
} as const;

export const directionWords: Record<Direction, string> = {
  inbound: 'In',
  outbound: 'Out',
  dialled: 'Dialled',
  line: 'Line',
};

export const campaignWords = {
  draft: 'Draft',
  running: 'Running',
  paused: 'Paused',
  finished: 'Finished',
} as const;

export const contactWords: Record<string, string> = {
  due: 'To do',
  leased: 'Next',
  inAir: 'On the line',
  talked: 'Talked',
  optedOut: 'Opted out',
  unreached: 'Not reached',
  invalid: 'No such number',
};

/** The names of outcomes in one line. */
export function outcomesWords(outcomes: readonly { name: string }[]): string {
  return outcomes.length === 0 ? 'the usual ones' : outcomes.map((each) => each.name).join(', ');
}

export const assumptionWords: Record<string, string> = {
  changesStillRead: 'without changes of the last seconds, which are still being read',
  asItIsNow: 'the agents and callers as they are now',
  everybodySignedInAndFree: 'everybody signed in and free',
  noOtherCallers: 'no other callers come',
  answersAfter5s: 'each phone is lifted after 5 s',
  botWasAsked: 'the bot is asked for real',
  playedByHand: 'everybody does what you have them do',
  talksEndAtMean: "talks end at their queue's mean",
  campaignsPause: 'campaigns launch no calls meanwhile',
};

export const roleWords = {
  administrator: 'Administrator',
  supervisor: 'Supervisor',
  agent: 'Agent',
  auditor: 'Auditor',
} as const;
