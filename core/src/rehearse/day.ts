import type { CallFacts, Effect } from '../exchange/effects.ts';
import { exchangeOver } from '../exchange/exchange.ts';
import type { StoryRecord } from '../exchange/records.ts';
import type { Configuration } from '../model/configuration.ts';
import { patienceMs, type Profile, reactToRing, talk, voicemailMs } from './behaviour.ts';
import { Player } from './player.ts';
import { exponential, type Random, rehearsedUuid } from './random.ts';

/** Callers of one number: how many an hour, by the hour of the local day (24 values). */
export interface Arrivals {
  to: string;
  perHour: readonly number[];
}

/** When a person is at work, UTC milliseconds, half-open [from, to). */
export interface Shift {
  personId: string;
  from: number;
  to: number;
}

export interface RehearsedDay {
  configuration: Configuration;
  /** Start of the local day and instants of its hours: hourStarts[h] to hourStarts[h + 1], 25 values. */
  hourStarts: readonly number[];
  arrivals: readonly Arrivals[];
  shifts: readonly Shift[];
  profile: Profile;
  /** Draws the caller's number. */
  caller: (random: Random) => string;
}

export interface RehearsedCall {
  facts: CallFacts;
  story: StoryRecord[];
}

/**
 * A made-up day run through the exchange: what callers and agents do is drawn from the generator, what
 * becomes of each call is decided by the exchange. The same input gives the same calls.
 */
export function rehearseDay(day: RehearsedDay, random: Random): RehearsedCall[] {
  const ended: RehearsedCall[] = [];
  const stories = new Map<string, StoryRecord[]>();
  const begin = day.hourStarts[0]!;
  const player = new Player(
    exchangeOver(day.configuration, begin),
    'bounded',
    (effect) => react(effect),
    (records) => {
      for (const record of records)
        stories.set(record.callId, [...(stories.get(record.callId) ?? []), record]);
    },
  );
  const phoneOf = new Map(day.configuration.phones.map((phone) => [phone.personId, phone.id]));
  for (const shift of day.shifts) {
    const phoneId = phoneOf.get(shift.personId);
    if (phoneId === undefined) continue;
    player.plan(shift.from, { kind: 'phoneRegistered', phoneId, address: '192.0.2.20' });
    player.plan(shift.to, { kind: 'agentSignedOut', personId: shift.personId });
    player.plan(shift.to, { kind: 'phoneUnregistered', phoneId, why: 'the phone signed off' });
  }
  for (const arrivals of day.arrivals) planArrivals(player, day, arrivals, random);
  player.run(Number.POSITIVE_INFINITY);
  return ended;

  function react(effect: Effect): void {
    switch (effect.kind) {
      case 'ring': {
        const reaction = reactToRing(random, day.profile);
        if (reaction.does === 'nothing') return;
        const body =
          reaction.does === 'answer'
            ? ({ kind: 'legAnswered', leg: effect.leg } as const)
            : ({ kind: 'legFailed', leg: effect.leg, cause: 'declined' } as const);
        return player.plan(player.now + reaction.afterMs, body);
      }
      case 'connect': {
        const { ms, endedBy } = talk(random, day.profile);
        const body =
          endedBy === 'agent'
            ? ({ kind: 'legEnded', leg: effect.legs[1] } as const)
            : ({ kind: 'callerHungUp', callId: effect.callId } as const);
        return player.plan(player.now + ms, body);
      }
      case 'record':
        return player.plan(player.now + voicemailMs(random, day.profile, effect.greetingSeconds), {
          kind: 'callerHungUp',
          callId: effect.callId,
        });
      case 'callEnded':
        ended.push({ facts: effect.facts, story: stories.get(effect.facts.callId) ?? [] });
        stories.delete(effect.facts.callId);
    }
  }
}

/** Arrivals as a Poisson process, hour by hour; each caller has a patience of their own. */
function planArrivals(player: Player, day: RehearsedDay, { to, perHour }: Arrivals, random: Random): void {
  for (let hour = 0; hour < 24; hour++) {
    const from = day.hourStarts[hour]!;
    const until = day.hourStarts[hour + 1]!;
    const rate = perHour[hour] ?? 0;
    if (rate <= 0) continue;
    for (
      let at = from + exponential(random, 3_600_000 / rate);
      at < until;
      at += exponential(random, 3_600_000 / rate)
    ) {
      const arrivedAt = Math.round(at);
      const callId = rehearsedUuid(arrivedAt, random);
      player.plan(arrivedAt, { kind: 'callArrived', callId, to, from: day.caller(random), standIn: true });
      const givesUpAt = arrivedAt + patienceMs(random, day.profile);
      player.plan(givesUpAt, () => {
        const stage = player.exchange.view().calls.get(callId)?.stage;
        if (stage === 'waiting' || stage === 'ringing')
          player.take(givesUpAt, { kind: 'callerHungUp', callId });
      });
    }
  }
}
