import type { ReachedBy } from '../distribute/candidates.ts';
import type { Reason } from '../distribute/eligibility.ts';
import type { Pace } from '../outbound/pacing.ts';
import { tradeCauses } from './causes.ts';
import type { CallResult, Direction, LegFailure } from './facts.ts';
import type { NotTaken, SentOnBecause } from './records.ts';
import { span } from './span.ts';

/** The words of stories: one place, so that they are the same on every screen and in every export. */

/** What would ring, or rang. */
export const reachedWords: Record<ReachedBy, string> = {
  softphone: 'softphone',
  desk: 'desk phone',
  cordless: 'cordless phone',
  homeSoftphone: 'softphone at home',
  browser: 'own page',
  outside: 'outside number',
  openLine: 'line held open',
};

export const resultWords: Record<CallResult, string> = {
  answered: 'Answered',
  abandoned: 'Caller gave up',
  voicemail: 'Left a message',
  turnedAway: 'Turned away',
  unroutable: 'Led nowhere',
  forwarded: 'Sent on',
  conference: 'Conference',
  fax: 'Fax',
  noAnswer: 'No answer',
  busy: 'Busy',
  machine: 'Machine',
  hungUp: 'Hung up',
  optedOut: 'Opted out',
  refused: 'Refused',
  noRoute: 'No such number',
  congestion: 'Lines full',
  unreachable: 'Not reachable',
  lineClosed: 'Line closed',
  lost: 'Lost',
};

/** The result of a call, by its direction: an outbound call is abandoned by us. */
export function resultOf(result: CallResult, direction: Direction): string {
  return result === 'abandoned' && direction === 'outbound' ? 'Abandoned' : resultWords[result];
}

/** A failure as the trade knows it: words, SIP status and Q.850 cause. */
export function causeWords(cause: LegFailure): string {
  const { sip, sipReason, q850 } = tradeCauses[cause];
  return `${sip} ${sipReason}, cause ${q850}`;
}

/** Why a campaign keeps so many calls in the air. */
export function paceWords(pace: Pace): string {
  switch (pace.why) {
    case 'ratio':
      return `${pace.ratio} calls for each free agent`;
    case 'oneEach':
      return `${pace.ratio} ${pace.ratio === 1 ? 'call' : 'calls'} for each free agent, who is kept for it`;
    case 'atLimit':
      return 'at the abandon limit: one call for each free agent, who is kept for it';
  }
}

/** A reason against, as it was at `at`. */
export function reasonSentence(reason: Reason, at: number): string {
  switch (reason.code) {
    case 'signedOut':
      return 'Signed out';
    case 'away':
      return `Away, ${reason.awayReason}, for ${span(at - reason.since)}`;
    case 'noPhone':
      return 'Has no phone';
    case 'phoneUnregistered':
      return 'Phone unregistered';
    case 'phoneRefused':
      return `Phone refused, ${reason.why}`;
    case 'trunkGone':
      return 'Outside number, its trunk is gone';
    case 'trunkFull':
      return 'Outside number, no channel free on its trunk';
    case 'reserved':
      return 'Kept free for a contact who is being called';
    case 'lineNotOpen':
      return 'Outside number without a line held open';
    case 'skillTooLow':
      return reason.level === 0
        ? `Without ${reason.skill}, ${reason.minimum} is asked for`
        : `${reason.skill} at ${reason.level}, ${reason.minimum} is asked for`;
    case 'notYet':
      return `May be rung from ${span(reason.afterSeconds * 1000)} of waiting on`;
    case 'texting':
      return reason.texts === 1 ? 'In a text conversation' : `In ${reason.texts} text conversations`;
    case 'ringing':
      return 'Being rung for another call';
    case 'atLimit':
      return reason.calls === 1
        ? `Talking for ${span(at - reason.since)}`
        : `At their limit of ${reason.calls} calls`;
    case 'wrappingUp':
      return `${span(reason.until - at)} of wrap-up left`;
    case 'backingOff':
      return `Rests ${span(reason.until - at)} more after a call not taken`;
  }
}

/** All reasons against, in one line. */
export function reasonsSentence(reasons: readonly Reason[], at: number): string {
  const [first = '', ...rest] = reasons.map((reason) => reasonSentence(reason, at));
  return [first, ...rest.map((each) => each.charAt(0).toLowerCase() + each.slice(1))].join(', ');
}

/** A fault to be mended on the phone: refused, or away while its agent is signed in. */
export function hasFault(reasons: readonly Reason[]): boolean {
  if (reasons.some((reason) => reason.code === 'phoneRefused')) return true;
  const signedOut = reasons.some((reason) => reason.code === 'signedOut');
  return (
    !signedOut && reasons.some((reason) => reason.code === 'phoneUnregistered' || reason.code === 'noPhone')
  );
}

const countWords: Record<Reason['code'], string> = {
  signedOut: 'signed out',
  away: 'away',
  noPhone: 'without a phone',
  phoneUnregistered: 'with an unregistered phone',
  phoneRefused: 'with a refused phone',
  trunkGone: 'without a trunk',
  trunkFull: 'with a full trunk',
  reserved: 'kept for a contact',
  skillTooLow: 'without the skill',
  notYet: 'not yet to be rung',
  texting: 'in text conversations',
  lineNotOpen: 'without an open line',
  ringing: 'being rung',
  atLimit: 'talking',
  wrappingUp: 'wrapping up',
  backingOff: 'resting',
};

/** '8 talking, 2 signed out'. */
export function countsSentence(counts: Partial<Record<Reason['code'], number>>): string {
  const parts = Object.entries(counts) as [Reason['code'], number][];
  return parts
    .sort((one, other) => other[1] - one[1])
    .map(([code, count]) => `${count} ${countWords[code]}`)
    .join(', ');
}

export function notTakenWords(reason: NotTaken): string {
  switch (reason) {
    case 'noAnswer':
      return 'Not lifted';
    case 'declined':
      return 'Declined';
    case 'busy':
      return 'Busy';
    case 'unreachable':
      return 'Phone could not be reached';
    case 'notAccepted':
      return 'Lifted, key 1 not pressed';
    case 'unattended':
      return 'Night Bell was not running, so that it rang nowhere';
    case 'refused':
    case 'noRoute':
    case 'congestion':
      return `Not put through, ${causeWords(reason)}`;
    case 'signedOut':
      return 'Signed out while it rang';
    case 'setAway':
      return 'Set away while it rang';
    case 'callsForHelp':
      return 'Called for help while it rang';
    case 'personRetired':
      return 'Deactivated while it rang';
  }
}

export function sentOnWords(because: SentOnBecause, limit: number | null, key = ''): string {
  switch (because) {
    case 'closed':
      return 'The queue is closed';
    case 'queueFull':
      return `Full at ${limit} waiting`;
    case 'waitedTooLong':
      return `Waited ${span((limit ?? 0) * 1000)}, the longest allowed`;
    case 'nobodySignedIn':
      return 'Nobody signed in';
    case 'allAway':
      return 'Everybody who is signed in is away';
    case 'pressed':
      return `The caller pressed ${key}`;
    case 'queueRetired':
      return 'The queue was deactivated';
  }
}

/** The branch not taken: 'full at 25: Bookings voicemail'. */
export function slackWords(because: SentOnBecause, limit: number | null, name: string): string {
  switch (because) {
    case 'closed':
      return `closed: ${name}`;
    case 'queueFull':
      return `full at ${limit}: ${name}`;
    case 'waitedTooLong':
      return `after ${span((limit ?? 0) * 1000)}: ${name}`;
    case 'nobodySignedIn':
      return `nobody in: ${name}`;
    case 'allAway':
      return `all away: ${name}`;
    case 'pressed':
      return `by a key: ${name}`;
    case 'queueRetired':
      return name;
  }
}
