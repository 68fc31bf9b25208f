import { localDay } from '../../hours/zone-clock.ts';
import { abandonDays, type DayTally } from '../../outbound/pacing.ts';
import type { Agent } from '../agents/agent.ts';
import { reindexAgent } from '../agents/reindex.ts';
import type { Call } from '../calls/call.ts';
import { effect } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { serveLater } from '../kernel/later.ts';
import type { QueueState } from '../queues/queue.ts';
import type { Campaign } from './campaign.ts';

/** Counts a launched call as in the air, with an agent reserved for it or not. */
export function beginDialling(state: State, call: Call, queue: QueueState, reserved: Agent | null): void {
  call.inAir = true;
  call.campaign!.inAir++;
  call.reservedAgent = reserved;
  if (reserved === null) queue.inAir++;
  else {
    queue.reservations++;
    reserved.reservedFor = call;
    reindexAgent(state, reserved);
  }
  effect(state, { kind: 'campaignChanged', campaignId: call.campaign!.item.id });
}

/** The call is no longer in the air; the agent reserved for it is free for anybody. Does nothing the second time. */
export function endDialling(state: State, call: Call): void {
  const campaign = call.campaign;
  if (campaign === null || !call.inAir) return;
  call.inAir = false;
  campaign.inAir--;
  effect(state, { kind: 'campaignChanged', campaignId: campaign.item.id });
  const queue = call.queue!;
  const reserved = call.reservedAgent;
  if (reserved === null) {
    queue.inAir--;
    return;
  }
  queue.reservations--;
  reserved.reservedFor = null;
  call.reservedAgent = null;
  reindexAgent(state, reserved);
  serveLater(state, reserved);
}

/** Whoever was reserved for the call leaves: it goes on as one without anybody reserved for it. */
export function cancelReservation(state: State, call: Call): void {
  const reserved = call.reservedAgent;
  if (reserved === null) return;
  const queue = call.queue!;
  queue.reservations--;
  queue.inAir++;
  reserved.reservedFor = null;
  call.reservedAgent = null;
  reindexAgent(state, reserved);
}

/** Today's line of the campaign's tally, made when it is the first of the day. */
export function tallyToday(state: State, campaign: Campaign): DayTally {
  const day = localDay(state.settings.clock, state.now);
  const last = campaign.tallies.at(-1);
  if (last !== undefined && last.day >= day) return last;
  const fresh = { day, answered: 0, abandoned: 0 };
  campaign.tallies = [...campaign.tallies.filter((tally) => tally.day > day - abandonDays), fresh];
  return fresh;
}
