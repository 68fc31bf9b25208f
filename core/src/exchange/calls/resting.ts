import type { Agent } from '../agents/agent.ts';
import type { Offer } from '../offers/offer.ts';
import { activityAt, type ActivityBody, type ActivityShape, type RouteAttempt } from './activity.ts';
import type { Call } from './call.ts';

export function begin(call: Call, at: number, body: ActivityBody): void {
  call.activity = activityAt(at, body);
}

/** The offer that rings now; null when nobody is rung for this call. */
export function offerOf(call: Call): Offer | null {
  return (call.activity as ActivityShape).offer;
}

/** The colleague who is told of the caller, or rung for that. */
export function consultedIn(call: Call): Agent | null {
  return call.activity.kind === 'consulting' ? call.activity.consulted : null;
}

export function routeAttemptOf(call: Call): RouteAttempt | null {
  return (call.activity as ActivityShape).attempt;
}

/** Whether the call asks for help. */
export function isForHelp(call: Call): boolean {
  return routeAttemptOf(call)?.emergency === true;
}
