import { type DayTally, abandonDays } from '../outbound/pacing.ts';
import { localDay } from '../hours/zone-clock.ts';
import { refreshAgent } from './agents.ts';
import type { Agent, Call, Campaign, QueueState, State } from './state.ts';

/** Counts a launched call as in the air, with an agent kept for it or not. */
export function takeOff(state: State, call: Call, queue: QueueState, kept: Agent | null): void {
  call.inAir = true;
  call.campaign!.inAir++;
  call.keptAgent = kept;
  if (kept === null) queue.inAir++;
  else {
    queue.keeping++;
    kept.keptFor = call;
    refreshAgent(state, kept);
  }
  state.out.effects.push({ kind: 'campaignChanged', campaignId: call.campaign!.item.id });
}

/** The call is no longer in the air; the agent kept for it is free for anybody. Does nothing the second time. */
export function land(state: State, call: Call): void {
  const campaign = call.campaign;
  if (campaign === null || !call.inAir) return;
  call.inAir = false;
  campaign.inAir--;
  state.out.effects.push({ kind: 'campaignChanged', campaignId: campaign.item.id });
  const queue = call.queue!;
  const kept = call.keptAgent;
  if (kept === null) {
    queue.inAir--;
    return;
  }
  queue.keeping--;
  kept.keptFor = null;
  call.keptAgent = null;
  refreshAgent(state, kept);
  state.todo.push(kept);
}

/** Whoever was kept for the call leaves: it goes on as one without anybody kept for it. */
export function keepNobody(state: State, call: Call): void {
  const kept = call.keptAgent;
  if (kept === null) return;
  const queue = call.queue!;
  queue.keeping--;
  queue.inAir++;
  kept.keptFor = null;
  call.keptAgent = null;
  refreshAgent(state, kept);
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
