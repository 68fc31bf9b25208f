import { type Exchange } from '../exchange/exchange.ts';
import type { Effect } from '../exchange/kernel/effects.ts';
import { acceptKey } from '../exchange/offers/outcome.ts';
import type { StoryRecord } from '../story/records.ts';
import type { StepKindName } from '../model/plan.ts';
import { Player } from './player.ts';
import type { BotAsked, MeanTalk, PathStep, TestCall } from './test-call-asked.ts';

export const answersAfterMs = 5_000;

export const acceptsAfterMs = 2_000;
/** How far into the question the caller presses. */
const pressesAfterMs = 2_000;
const betweenKeysMs = 400;
/** How long after the question the caller speaks. */
const speaksAfterMs = 1_000;
/** How long a customer system thinks, usually. */
const looksUpMs = 300;

export const callId = 'test-call';

/** What was played to the caller last, and the way they came. */
export interface Heard {
  say: (Effect & { kind: 'say' }) | null;
  path: PathStep[];
  /** Turns of bots asked so far, and the first without an answer. */
  turns: number;
  asksBot: BotAsked | null;
}

export function makePlayer(
  exchange: Exchange,
  story: StoryRecord[],
  talkMs: MeanTalk,
  { keys: typed = '', says = [], botAnswers = [], hand, lookUps = {} }: TestCall,
  heard: Heard,
): Player {
  const keys = [...typed];
  const words = [...says];
  const react = (effect: Effect, player: Player) => {
    if ('callId' in effect && effect.callId === callId) {
      if (effect.kind === 'say') heard.say = effect;
      if (effect.kind === 'lookUp') {
        const { asked, digits } = effect;
        const record = lookUps[digits] ?? null;
        player.plan(player.now + looksUpMs, { kind: 'lookedUp', callId, asked, record, failed: false });
      }
      if (effect.kind === 'askBot') {
        const reply = botAnswers[heard.turns++];
        const { kind: _kind, ...asked } = effect;
        if (reply === undefined) heard.asksBot ??= asked;
        else
          player.plan(player.now + looksUpMs, {
            ...{ kind: 'botAnswered', callId, asked: effect.asked, ...reply },
          });
      }
      // Somebody else lifts, presses, speaks and hangs up.
      if (hand !== undefined) return;
    }
    // Whoever waits may press a key of the queue without being asked for it.
    if (effect.kind === 'play' && effect.prompt === 'waiting' && effect.callId === callId) {
      const item = player.exchange.view().calls.get(callId)?.queue?.item;
      const means = item !== undefined && [item.leaveKey, item.callBack?.key].includes(keys[0]);
      if (means)
        player.plan(player.now + pressesAfterMs, { kind: 'keyPressed', leg: effect.leg, key: keys.shift()! });
    }
    if (effect.kind === 'listen' && effect.callId === callId) {
      const said = words.shift();
      const saysAt = player.now + (heard.say?.seconds ?? 0) * 1000 + speaksAfterMs;
      if (said !== undefined)
        player.plan(saysAt, { kind: 'spoken', leg: effect.leg, words: said, by: 'voice' });
    } else if (effect.kind === 'ring')
      player.plan(player.now + answersAfterMs, { kind: 'legAnswered', leg: effect.leg });
    else if (effect.kind === 'say' && effect.callId === callId) {
      // What is typed as one ends with #, or with what there is.
      if (rests(player.exchange, 'customerNumber')) {
        const end = keys.indexOf('#');
        const all = keys.splice(0, end < 0 ? keys.length : end + 1);
        all.forEach((key, index) =>
          player.plan(player.now + pressesAfterMs + index * betweenKeysMs, {
            ...{ kind: 'keyPressed' as const, leg: effect.leg, key },
          }),
        );
        return;
      }
      // Where a menu asks, the next key is pressed, right or wrong; elsewhere only one that is offered.
      const isNext = rests(player.exchange, 'keys') ? keys.length > 0 : effect.keys.includes(keys[0] ?? '');
      if (isNext)
        player.plan(player.now + pressesAfterMs, { kind: 'keyPressed', leg: effect.leg, key: keys.shift()! });
    } else if (effect.kind === 'dial' && effect.party === 'outside')
      player.plan(player.now + answersAfterMs, { kind: 'legAnswered', leg: effect.leg });
    else if (effect.kind === 'dial' && effect.party === 'agent') {
      const lifts = player.now + answersAfterMs;
      player.plan(lifts, { kind: 'legAnswered', leg: effect.leg });
      player.plan(lifts + acceptsAfterMs, { kind: 'keyPressed', leg: effect.leg, key: acceptKey });
    } else if (effect.kind === 'connect' && effect.callId !== callId) {
      const queueId = player.exchange.view().calls.get(effect.callId)?.lastQueueId ?? null;
      player.plan(player.now + talkMs(queueId), { kind: 'callerHungUp', callId: effect.callId });
    }
  };
  return new Player(exchange, 'full', react, (records, passed) => {
    for (const record of records) if (record.callId === callId) story.push(record);
    for (const { callId: of, ...step } of passed) if (of === callId) heard.path.push(step);
  });
}

/** Whether the test call rests in a step of this kind. */
export function rests(exchange: Exchange, kind: StepKindName): boolean {
  const frame = exchange.view().calls.get(callId)?.route.at(-1);
  return frame?.plan.steps[frame.stepId]?.kind === kind;
}
