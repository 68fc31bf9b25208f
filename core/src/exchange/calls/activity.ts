import type { Agent } from '../agents/agent.ts';
import type { Offer } from '../offers/offer.ts';

/** A call on its way out over trunks: what is sent, and which trunks have not been tried. Data as it is. */
export interface RouteAttempt {
  digits: string;
  name: string;
  callerId: string;
  ringSeconds: number;
  trunkIds: string[];
  emergency: boolean;
}

/**
 * What a call rests in. It rests in exactly one of these; what happens on a leg goes there, and nobody else asks. What a
 * call needs to know in one of them only is kept with it.
 */
export type ActivityBody =
  /** In a step of its plan, which remembers what it must (route/step-activity.ts). */
  | { kind: 'step' }
  /** In a queue's waiting list. */
  | { kind: 'waiting' }
  /** Agents are rung. */
  | { kind: 'offered'; offer: Offer }
  /** Caller or contact and agent hear each other. */
  | { kind: 'bridged' }
  /** The caller is held; a colleague is rung, and told of them. `offer` while they are rung. */
  | { kind: 'consulting'; consulted: Agent; offer: Offer | null }
  /** A message is taken; `from` is when the greeting ends. */
  | { kind: 'recording'; boxId: string; from: number }
  /** Sent on to, or dialled by one of ours: an outside number is called, and then talked with. */
  | { kind: 'dialOut'; attempt: RouteAttempt }
  | { kind: 'bridgedOutside'; attempt: RouteAttempt }
  /** The caller is called back as was promised; the agent who took it hears it ring, where the agent comes first. */
  | { kind: 'callingBack'; attempt: RouteAttempt }
  | { kind: 'conference'; roomId: string }
  | { kind: 'receivingFax'; boxId: string }
  /** Of a contact: their phone rings; they lifted; they hear that nobody is free. */
  | { kind: 'contactRings' }
  | { kind: 'greeting' }
  | { kind: 'announcement' }
  /** A persistent line to an agent's outside number: asked for, and held open between calls. */
  | { kind: 'lineOffered'; offer: Offer }
  | { kind: 'lineHeld' }
  | { kind: 'ended' };

/** `since` is when it began (UTC milliseconds); a consultation counts from when the talk with the caller began. */
export type Activity = ActivityBody & { since: number };

export type ActivityKind = Activity['kind'];

export type ActivityOf<Kind extends ActivityKind> = Extract<Activity, { kind: Kind }>;

/** All activities have one shape in memory, so that asking a call what it rests in costs nothing. */
export class ActivityShape {
  readonly kind: ActivityKind;
  readonly since: number;
  offer: Offer | null;
  consulted: Agent | null;
  readonly attempt: RouteAttempt | null;
  readonly boxId: string | null;
  readonly from: number | null;
  readonly roomId: string | null;

  constructor(at: number, body: Partial<ActivityShape> & { kind: ActivityKind }) {
    this.kind = body.kind;
    this.since = at;
    this.offer = body.offer ?? null;
    this.consulted = body.consulted ?? null;
    this.attempt = body.attempt ?? null;
    this.boxId = body.boxId ?? null;
    this.from = body.from ?? null;
    this.roomId = body.roomId ?? null;
  }
}

export function activityAt(at: number, body: ActivityBody): Activity {
  return new ActivityShape(at, body) as Activity;
}
