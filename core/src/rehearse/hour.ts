import { exchangeOver } from '../exchange/exchange.ts';
import type { Effect } from '../exchange/kernel/effects.ts';
import type { Configuration } from '../model/configuration.ts';
import { exponential, logNormal, seededRandom, seedFrom } from '../random/random.ts';
import { type PhoneReaction, reactToRing, usualProfile } from './behaviour.ts';
import { Player } from './player.ts';

/** A caller of a made-up hour: when they call, how long they would wait, and how long they have to say. */
export interface HourCall {
  id: string;
  /** Milliseconds from the hour's beginning. */
  at: number;
  patienceMs: number;
  talkMs: number;
}

/** What an hour is like, as it was measured or typed. */
export interface HourShape {
  /** Calls in the hour, on average. */
  calls: number;
  /** Talk, without wrap-up; mean seconds, and its variation. */
  talkSeconds: number;
  talkVariation?: number;
  /** Mean seconds until a caller gives up; null for callers who wait as long as it takes. */
  patienceSeconds: number | null;
}

const hourMs = 3_600_000;

/**
 * The callers of one hour, drawn once: whatever is compared on it, they come at the same instants, are as patient and
 * have as much to say (docs/definitions.md, "Waiting and staffing").
 */
export function drawHour(seed: number, shape: HourShape): HourCall[] {
  const [arrivals, patience, talk] = ['arrivals', 'patience', 'talk'].map((what) =>
    seededRandom(seedFrom(seed, what)),
  );
  const calls: HourCall[] = [];
  const gap = hourMs / shape.calls;
  const { talkVariation = usualProfile.talkVariation } = shape;
  for (let at = exponential(arrivals!, gap); at < hourMs; at += exponential(arrivals!, gap)) {
    const seconds =
      talkVariation === 1
        ? exponential(talk!, shape.talkSeconds)
        : logNormal(talk!, shape.talkSeconds, talkVariation);
    calls.push({
      ...{ id: `call-${calls.length + 1}`, at: Math.round(at) },
      patienceMs:
        shape.patienceSeconds === null
          ? Number.POSITIVE_INFINITY
          : Math.round(exponential(patience!, shape.patienceSeconds * 1_000)),
      talkMs: Math.max(1, Math.round(seconds * 1_000)),
    });
  }
  return calls;
}

/** How somebody takes a call that rings: at `time`, from 1, it rings there. */
export type Reacts = (callId: string, personId: string, time: number) => PhoneReaction;

/**
 * Drawn for each ring: the same for the same seed, call, person and time, however it came to ring there. Who does not lift
 * once may lift when the same call comes back to them; else one call would be missed until it sets them away.
 */
export const drawnReactions =
  (seed: number): Reacts =>
  (callId, personId, time) =>
    reactToRing(seededRandom(seedFrom(seed, callId, personId, time)), usualProfile);

/** What became of one call of the hour. */
export interface HourOutcome {
  waitedMs: number;
  /** Null when nobody talked with them. */
  personId: string | null;
}

export interface HourRun {
  /** Of every call, in the order in which they came. */
  calls: HourOutcome[];
  /** Of every agent: calls taken, and the share of the hour without talk and wrap-up. */
  agents: { personId: string; calls: number; idle: number }[];
}

/**
 * An hour through the exchange: everybody of the set-up is there and free at its beginning, and it is played until the
 * last caller of it has gone. `number` leads to the queue.
 */
export function runHour(
  configuration: Configuration,
  number: string,
  calls: readonly HourCall[],
  reacts: Reacts,
): HourRun {
  const outcomes = new Map<string, HourOutcome>();
  const byId = new Map(calls.map((call) => [call.id, call]));
  const rang = new Map<string, number>();
  const busy = new Map<string, { calls: number; ms: number }>();
  for (const { id } of configuration.people) busy.set(id, { calls: 0, ms: 0 });
  const wrapUp = new Map(configuration.queues.map(({ id, wrapUpSeconds }) => [id, wrapUpSeconds * 1_000]));
  const player = new Player(exchangeOver(configuration, 0), 'none', react, () => undefined);
  for (const phone of configuration.phones)
    player.take(0, { kind: 'phoneRegistered', phoneId: phone.id, address: '192.0.2.30' });
  for (const { id } of configuration.people) player.take(0, { kind: 'agentSignedIn', personId: id });
  for (const { id, at, patienceMs } of calls) {
    player.plan(at, { kind: 'callArrived', callId: id, to: number, from: '', standIn: true });
    if (Number.isFinite(patienceMs)) player.plan(at + patienceMs, () => giveUp(id, at + patienceMs));
  }
  player.run(Number.POSITIVE_INFINITY);
  return {
    calls: calls.map(({ id }) => outcomes.get(id)!),
    agents: [...busy].map(([personId, { calls: taken, ms }]) => ({
      ...{ personId, calls: taken, idle: Math.max(0, 1 - ms / hourMs) },
    })),
  };

  function react(effect: Effect): void {
    if (effect.kind === 'ring') {
      const of = `${effect.callId} ${effect.personId}`;
      const time = (rang.get(of) ?? 0) + 1;
      rang.set(of, time);
      const reaction = reacts(effect.callId, effect.personId, time);
      if (reaction.does === 'answer')
        player.plan(player.now + reaction.afterMs, { kind: 'legAnswered', leg: effect.leg });
      else if (reaction.does === 'decline')
        player.plan(player.now + reaction.afterMs, { kind: 'legFailed', leg: effect.leg, cause: 'declined' });
    } else if (effect.kind === 'connect')
      player.plan(player.now + byId.get(effect.callId)!.talkMs, {
        ...{ kind: 'callerHungUp', callId: effect.callId },
      });
    else if (effect.kind === 'callEnded') {
      const { callId, answeredAt, arrivedAt, endedAt, personId, queueId } = effect.facts;
      outcomes.set(callId, { waitedMs: (answeredAt ?? endedAt) - arrivedAt, personId });
      const agent = busy.get(personId ?? '');
      if (agent === undefined || answeredAt === null) return;
      agent.calls++;
      const until = Math.min(hourMs, endedAt + (wrapUp.get(queueId ?? '') ?? 0));
      agent.ms += Math.max(0, until - Math.min(hourMs, answeredAt));
    }
  }

  function giveUp(callId: string, at: number): void {
    const doing = player.exchange.view().calls.get(callId)?.activity.kind;
    if (doing === 'waiting' || doing === 'offered') player.take(at, { kind: 'callerHungUp', callId });
  }
}
