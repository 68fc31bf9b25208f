import { exchangeOver } from '../exchange/exchange.ts';
import type { Effect } from '../exchange/kernel/effects.ts';
import type { ExchangeEventBody, LeasedContact } from '../exchange/kernel/events.ts';
import { acceptKey } from '../exchange/offers/outcome.ts';
import type { CallFacts, RecordFacts } from '../story/facts.ts';
import type { StoryRecord } from '../story/records.ts';
import type { Configuration } from '../model/configuration.ts';
import {
  patienceMs,
  pressKey,
  type Profile,
  reactContact,
  reactOutside,
  reactToRing,
  speakWords,
  talk,
  voicemailMs,
} from './behaviour.ts';
import { Player } from './player.ts';
import { exponential, type Random, rehearsedUuid } from '../random/random.ts';

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
  /** Draws the number of a caller to `to`. */
  caller: (random: Random, to: string) => string;
  /** What the customer records know of a caller. */
  record?: (caller: string) => RecordFacts | null;
  /** Hands out at most `count` contacts of a campaign that are due at `at`; none when it has no more that day. */
  contacts?: (campaignId: string, count: number, at: number) => LeasedContact[];
  /** What else happens that day: a campaign is started, paused ... */
  events?: readonly { at: number; body: ExchangeEventBody }[];
  /** What came of a contact's call, so that they may be due again. */
  contactEnded?: (facts: CallFacts) => void;
}

export interface RehearsedCall {
  facts: CallFacts;
  story: StoryRecord[];
  /** Those that were recorded. */
  talks: (Effect & { kind: 'talkRecorded' })[];
}

/**
 * A made-up day run through the exchange: what callers and agents do is drawn from the generator, what
 * becomes of each call is decided by the exchange. The same input gives the same calls.
 */
export function rehearseDay(day: RehearsedDay, random: Random): RehearsedCall[] {
  const ended: RehearsedCall[] = [];
  const stories = new Map<string, StoryRecord[]>();
  const talks = new Map<string, RehearsedCall['talks']>();
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
  const phoneOf = new Map(day.configuration.phones.map((phone) => [phone.personId, phone]));
  for (const { personId, from, to } of day.shifts) {
    const phone = phoneOf.get(personId);
    if (phone === undefined) continue;
    if (phone.kind === 'outside') player.plan(from, { kind: 'agentSignedIn', personId });
    else player.plan(from, { kind: 'phoneRegistered', phoneId: phone.id, address: '192.0.2.20' });
    player.plan(to, { kind: 'agentSignedOut', personId });
    if (phone.kind !== 'outside')
      player.plan(to, { kind: 'phoneUnregistered', phoneId: phone.id, why: 'the phone signed off' });
  }
  for (const { at, body } of day.events ?? []) player.plan(at, body);
  for (const arrivals of day.arrivals) planArrivals(player, day, arrivals, random);
  player.run(Number.POSITIVE_INFINITY);
  return ended;

  function react(effect: Effect): void {
    switch (effect.kind) {
      case 'ring': {
        if (effect.answerBySelf)
          return player.plan(player.now + 150, { kind: 'legAnswered', leg: effect.leg });
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
        const outbound = isOutbound(effect.callId);
        const body =
          endedBy === 'agent'
            ? ({ kind: 'legEnded', leg: effect.legs[1] } as const)
            : outbound
              ? ({ kind: 'legEnded', leg: effect.legs[0] } as const)
              : ({ kind: 'callerHungUp', callId: effect.callId } as const);
        return player.plan(player.now + ms, body);
      }
      case 'dial':
        if (isCallBack(effect.callId) && random() < day.profile.missesCallBack) return;
        if (effect.party === 'outside')
          return player.plan(player.now + reactOutside(random, day.profile).liftsMs, {
            kind: 'legAnswered',
            leg: effect.leg,
          });
        return effect.party === 'agent' ? outsideRings(effect.leg) : contactRings(effect.leg);
      case 'wantContacts': {
        const { campaignId, count } = effect;
        const contacts = day.contacts?.(campaignId, count, player.now) ?? [];
        return player.plan(player.now, { kind: 'contactsLeased', campaignId, contacts, askAgainAt: null });
      }
      case 'record':
        return player.plan(player.now + voicemailMs(random, day.profile, effect.greetingSeconds), {
          kind: 'callerHungUp',
          callId: effect.callId,
        });
      case 'say': {
        const pressed = pressKey(random, day.profile, effect.keys, effect.seconds, effect.optional);
        if (pressed === null) return;
        return player.plan(player.now + pressed.afterMs, {
          ...{ kind: 'keyPressed', leg: effect.leg, key: pressed.key },
        });
      }
      case 'listen': {
        const said = speakWords(random, day.profile, effect.phrases, effect.seconds);
        if (said === null) return;
        return player.plan(player.now + said.afterMs, {
          ...{ kind: 'spoken', leg: effect.leg, words: said.words, by: 'voice' },
        });
      }
      // No bot is asked in a simulated day: it hands over at once.
      case 'askBot':
        return player.plan(player.now + 300, {
          ...{ kind: 'botAnswered', callId: effect.callId, asked: effect.asked, why: null },
          answer: { say: '', then: 'handOver', facts: {}, language: null },
        });
      case 'talkRecorded':
        talks.set(effect.callId, [...(talks.get(effect.callId) ?? []), effect]);
        return;
      case 'receiveFax':
        return player.plan(player.now + 20_000, { kind: 'faxReceived', callId: effect.callId, pages: 2 });
      case 'joinRoom':
        return player.plan(player.now + talk(random, day.profile).ms, {
          kind: 'callerHungUp',
          callId: effect.callId,
        });
      case 'callEnded':
        if (effect.facts.contactId !== null) day.contactEnded?.(effect.facts);
        ended.push({
          facts: effect.facts,
          story: stories.get(effect.facts.callId) ?? [],
          talks: talks.get(effect.facts.callId) ?? [],
        });
        stories.delete(effect.facts.callId);
        talks.delete(effect.facts.callId);
    }
  }

  function isCallBack(callId: string): boolean {
    return player.exchange.view().calls.get(callId)?.activity.kind === 'callingBack';
  }

  function isOutbound(callId: string): boolean {
    return player.exchange.view().calls.get(callId)?.direction === 'outbound';
  }

  function outsideRings(leg: string): void {
    const { liftsMs, pressesMs } = reactOutside(random, day.profile);
    player.plan(player.now + liftsMs, { kind: 'legAnswered', leg });
    if (pressesMs !== null)
      player.plan(player.now + liftsMs + pressesMs, { kind: 'keyPressed', leg, key: acceptKey });
  }

  function contactRings(leg: string): void {
    const reaction = reactContact(random, day.profile);
    if (reaction.does === 'ringsOut') return;
    const at = player.now + reaction.afterMs;
    if (reaction.does === 'fails') return player.plan(at, { kind: 'legFailed', leg, cause: reaction.cause });
    player.plan(at, { kind: 'legAnswered', leg });
    const greeted = at + reaction.greetingMs;
    if (reaction.then === 'hangsUp') return player.plan(greeted, { kind: 'legEnded', leg });
    player.plan(greeted, { kind: 'greetingEnded', leg, by: reaction.by });
    if (reaction.then === 'optsOut') player.plan(greeted + 900, { kind: 'keyPressed', leg, key: '9' });
  }
}

/** Arrivals as a Poisson process, hour by hour; each caller has a patience of their own. */
function planArrivals(player: Player, day: RehearsedDay, { to, perHour }: Arrivals, random: Random): void {
  for (let hour = 0; hour < 24; hour++) {
    const begins = day.hourStarts[hour]!;
    const until = day.hourStarts[hour + 1]!;
    const rate = perHour[hour] ?? 0;
    if (rate <= 0) continue;
    for (
      let at = begins + exponential(random, 3_600_000 / rate);
      at < until;
      at += exponential(random, 3_600_000 / rate)
    ) {
      const arrivedAt = Math.round(at);
      const callId = rehearsedUuid(arrivedAt, random);
      const from = day.caller(random, to);
      const record = day.record?.(from) ?? null;
      player.plan(arrivedAt, {
        kind: 'callArrived',
        callId,
        to,
        from,
        standIn: true,
        ...(record === null ? {} : { record }),
      });
      const givesUpAt = arrivedAt + patienceMs(random, day.profile);
      player.plan(givesUpAt, () => {
        const doing = player.exchange.view().calls.get(callId)?.activity.kind;
        if (doing === 'waiting' || doing === 'offered')
          player.take(givesUpAt, { kind: 'callerHungUp', callId });
      });
    }
  }
}
