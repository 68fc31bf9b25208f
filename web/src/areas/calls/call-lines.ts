import { type CallResult, type Direction, mainOf } from '@night-bell/core/story/facts';
import type { CallLive, CallRow } from '../../api/client.ts';
import type { ShapeName } from '../../kit/Shape.vue';

/** One line of the list: a call that is over, or one in progress. */
export interface Line {
  id: string;
  direction: Direction;
  arrivedAt: number;
  /** The other side: a caller or a contact. */
  other: string;
  otherName: string | null;
  /** Label of the number that was called, or of the one shown; and the advert behind it. */
  number: string;
  sourceName: string | null;
  outcome: string | null;
  /** Name of the campaign, the queue or the ring group. */
  about: string | null;
  personName: string | null;
  result: CallResult | null;
  stage: CallLive['stage'];
  waitedMs: number;
  talkedMs: number;
}

/** How items and people are called. */
export interface Names {
  /** The label of a number held, or the number itself. */
  ofNumber(digits: string): string;
  ofItem(id: string): string;
  ofPerson(id: string): string | null;
}

/** The caller, or whom we called. */
export function otherSide(way: Direction, caller: string, dialled: string): string {
  return way === 'inbound' ? caller : dialled;
}

/** A call in progress, at `now` (UTC milliseconds). */
export function lineInProgress(call: CallLive, now: number, names: Names): Line {
  const about = mainOf(call.campaignId, call.queueId, call.ringGroupId);
  return {
    id: call.callId,
    direction: call.direction,
    arrivedAt: call.arrivedAt,
    other: otherSide(call.direction, call.from, call.to),
    otherName: call.callerName,
    number: names.ofNumber(call.direction === 'inbound' ? call.to : call.from),
    sourceName: call.sourceId === null ? null : names.ofItem(call.sourceId),
    outcome: null,
    about: about === null ? null : names.ofItem(about),
    personName: call.personId === null ? null : names.ofPerson(call.personId),
    result: null,
    stage: call.stage,
    waitedMs: (call.answeredAt ?? now) - call.arrivedAt,
    talkedMs: call.answeredAt === null ? 0 : now - call.answeredAt,
  };
}

/** A call that is over. */
export function lineOver(call: CallRow, names: Names): Line {
  return {
    ...call,
    arrivedAt: Date.parse(call.arrivedAt),
    stage: 'ended',
    other: otherSide(call.direction, call.caller, call.dialled),
    otherName: call.recordName ?? call.callerName,
    number: call.numberLabel ?? names.ofNumber(call.direction === 'inbound' ? call.dialled : call.caller),
    about: mainOf(call.campaignName, call.queueName, call.ringGroupName),
  };
}

/** What a call in progress is at. */
export const stageWords: Record<CallLive['stage'], string> = {
  routing: 'Coming in',
  dialling: 'Being dialled',
  greeting: 'Greets',
  announcement: 'Hears the message',
  held: 'Line open',
  waiting: 'Waiting',
  ringing: 'Ringing',
  talking: 'Talking',
  voicemail: 'In voicemail',
  forwarding: 'Rings outside',
  forwarded: 'Talks outside',
  roomDoor: 'Asked for a PIN',
  inPlan: 'In a plan',
  inRoom: 'In a conference',
  fax: 'Sends a fax',
  ended: 'Over',
};

/** The mark beside how a call ended, or stands. */
export function shape(line: Line): ShapeName {
  if (line.result === null) return line.stage === 'talking' ? 'talking' : 'ringing';
  if (line.result === 'answered') return 'done';
  if (line.direction === 'inbound') return line.result === 'voicemail' ? 'missing' : 'fault';
  return line.result === 'abandoned' ? 'fault' : 'missing';
}
