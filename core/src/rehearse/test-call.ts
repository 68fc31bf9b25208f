import { type Exchange, exchangeOver } from '../exchange/exchange.ts';
import type { PassedStep } from '../exchange/kernel/journal.ts';
import type { Effect } from '../exchange/kernel/effects.ts';
import { offerOf } from '../exchange/calls/resting.ts';
import { acceptKey } from '../exchange/offers/outcome.ts';
import type { BotAnswer, BotFault } from '../model/bots.ts';
import type { RecordFacts } from '../story/facts.ts';
import type { StoryRecord } from '../story/records.ts';
import type { Configuration } from '../model/configuration.ts';
import { type Outcome, outcomeOf } from '../story/outcome.ts';
import type { CompiledPlan, StepKindName } from '../model/plan.ts';
import { Player } from './player.ts';

export interface TestCall {
  to: string;
  from: string;
  at: number;
  /** What the customer records know of the caller. */
  record?: RecordFacts;
  /** Pressed one after the other, each where the caller is asked for a key. */
  keys?: string;
  /** Said one after the other, each where somebody listens. */
  says?: readonly string[];
  /** What a bot answers, turn by turn. */
  botAnswers?: readonly BotReply[];
  /** Whom the customer records know by digits the caller may type. */
  lookUps?: Readonly<Record<string, RecordFacts>>;
  /** A plan nobody has published: the number called leads there, for this call. */
  plan?: CompiledPlan;
  /** Played by hand: nobody lifts and nothing is pressed by itself; the call is looked at after so long. */
  hand?: { moves: HandMove[]; untilMs: number };
}

/** A turn of a bot: what it answered, or why nothing came of it. */
export type BotReply = { answer: BotAnswer; why: null } | { answer: null; why: BotFault };
/** What a bot is asked. */
export type BotAsked = Omit<Effect & { kind: 'askBot' }, 'kind'>;

/** What the caller does, or somebody who is rung, so long after the call began. */
export type HandMove = { afterMs: number } & (
  | { does: 'key'; key: string }
  | { does: 'say'; words: string }
  | { does: 'hangUp' }
  | { does: 'lift' | 'decline'; personId: string }
);

/** How a call that is played by hand stands. */
export interface HandState {
  atMs: number;
  over: boolean;
  /** What the caller hears of the library, while it plays and until a key comes; null for nothing. */
  hears: { promptId: string | null; words: string } | null;
  /** Keys that are offered. */
  keys: string[];
  /** Somebody listens to what the caller says. */
  listens: boolean;
  /** Whoever is rung and has not lifted. */
  rings: { personId: string; name: string }[];
  talksWith: string | null;
}

/** Mean talk of a queue's calls in milliseconds; null stands for direct calls. */
export type MeanTalk = (queueId: string | null) => number;

/** What was taken for granted; shown beside the outcome. */
export type Assumption =
  | 'asItIsNow'
  | 'everybodySignedInAndFree'
  | 'noOtherCallers'
  | 'answersAfter5s'
  | 'talksEndAtMean'
  | 'campaignsPause'
  | 'playedByHand'
  | 'botWasAsked';

export interface TestResult {
  story: StoryRecord[];
  outcome: Outcome;
  /** Steps of plans the call came through, in order: what a picture lights up. */
  path: PathStep[];
  assumptions: Assumption[];
  /** What a bot was asked first that no answer was given for; the call went on as if it did not answer. */
  asksBot?: BotAsked;
  /** Of a call that is played by hand. */
  hand?: HandState;
}

export type PathStep = Omit<PassedStep, 'callId'>;

const answersAfterMs = 5_000;
const acceptsAfterMs = 2_000;
/** How far into the question the caller presses. */
const pressesAfterMs = 2_000;
const betweenKeysMs = 400;
/** How long after the question the caller speaks. */
const speaksAfterMs = 1_000;
/** How long a customer system thinks, usually. */
const looksUpMs = 300;
const longestMs = 2 * 3_600_000;
const callId = 'test-call';

/** A test call into the exchange as it is now. `live` is never touched; talks end at their queue's mean. */
export function testCallNow(live: Exchange, call: TestCall, talkMs: MeanTalk): TestResult {
  const exchange = live.overlay();
  const begin = Math.max(call.at, exchange.now);
  const story: StoryRecord[] = [];
  const heard: Heard = { say: null, path: [], turns: 0, asksBot: null };
  const player = makePlayer(exchange, story, talkMs, call, heard);
  const running = [...exchange.view().campaigns.values()].filter((campaign) => campaign.item.running);
  const paused = running.map((campaign) => ({ ...campaign.item, running: false }));
  if (paused.length > 0) player.take(begin, { kind: 'configurationChanged', changes: { campaigns: paused } });
  for (const other of exchange.view().calls.values()) {
    for (const leg of other.legs) {
      if (leg.party !== 'agent' || other.direction === 'line') continue;
      if (leg.state === 'confirming')
        player.plan(begin + acceptsAfterMs, { kind: 'keyPressed', leg: leg.id, key: acceptKey });
      else if (leg.state === 'ringing')
        player.plan(Math.max(leg.since + answersAfterMs, begin), { kind: 'legAnswered', leg: leg.id });
      else
        player.plan(Math.max(leg.since + talkMs(other.lastQueueId), begin + 1_000), {
          kind: 'legEnded',
          leg: leg.id,
        });
    }
  }
  const result = follow(player, story, call, begin, heard, [
    'asItIsNow',
    'noOtherCallers',
    'answersAfter5s',
    'talksEndAtMean',
    ...(paused.length > 0 ? (['campaignsPause'] as const) : []),
  ]);
  // What the overlay stands for becomes plain data, which can be sent to another thread.
  return JSON.parse(JSON.stringify(result)) as TestResult;
}

/** A test call at another moment: everybody signed in, on a registered phone and free, no other callers. */
export function testCallAt(configuration: Configuration, call: TestCall, talkMs: MeanTalk): TestResult {
  const campaigns = configuration.campaigns.map((campaign) => ({ ...campaign, running: false }));
  const exchange = exchangeOver({ ...configuration, campaigns }, call.at);
  const story: StoryRecord[] = [];
  const heard: Heard = { say: null, path: [], turns: 0, asksBot: null };
  const player = makePlayer(exchange, story, talkMs, call, heard);
  for (const phone of configuration.phones) {
    if (phone.kind !== 'outside')
      player.take(call.at, { kind: 'phoneRegistered', phoneId: phone.id, address: '' });
    player.take(call.at, { kind: 'agentSignedIn', personId: phone.personId });
  }
  return follow(player, story, call, call.at, heard, [
    'everybodySignedInAndFree',
    'noOtherCallers',
    'answersAfter5s',
  ]);
}

/** What was played to the caller last, and the way they came. */
interface Heard {
  say: (Effect & { kind: 'say' }) | null;
  path: PathStep[];
  /** Turns of bots asked so far, and the first without an answer. */
  turns: number;
  asksBot: BotAsked | null;
}

function makePlayer(
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
function rests(exchange: Exchange, kind: StepKindName): boolean {
  const frame = exchange.view().calls.get(callId)?.route.at(-1);
  return frame?.plan.steps[frame.stepId]?.kind === kind;
}

function follow(
  player: Player,
  story: StoryRecord[],
  call: TestCall,
  begin: number,
  heard: Heard,
  assumptions: Assumption[],
): TestResult {
  const { to, from, record, plan, hand } = call;
  if (plan !== undefined)
    player.take(begin, {
      kind: 'configurationChanged',
      changes: { numbers: [{ id: 'draft', e164: to, label: 'the draft', plan, sourceId: null }] },
    });
  player.plan(begin, { kind: 'callArrived', callId, to, from, ...(record === undefined ? {} : { record }) });
  if (hand !== undefined) {
    const state = playByHand(player, begin, hand, heard);
    const outcome = outcomeOf(story) ?? { kind: 'stillWaiting', afterMs: hand.untilMs };
    const taken = assumptions.filter((each) => each !== 'answersAfter5s');
    return resultOf([...taken, 'playedByHand'], outcome, state);
  }
  player.run(begin + longestMs, () => outcomeOf(story) !== null);
  return resultOf(assumptions, outcomeOf(story) ?? { kind: 'stillWaiting', afterMs: longestMs });

  function resultOf(taken: Assumption[], outcome: Outcome, state?: HandState): TestResult {
    const { path, asksBot, turns } = heard;
    return {
      ...{ story, outcome, path, assumptions: turns === 0 ? taken : [...taken, 'botWasAsked'] },
      ...(asksBot === null ? {} : { asksBot }),
      ...(state === undefined ? {} : { hand: state }),
    };
  }
}

/** Lets the moves happen, each at its time, up to where the call is looked at. */
function playByHand(
  player: Player,
  begin: number,
  { moves, untilMs }: NonNullable<TestCall['hand']>,
  heard: Heard,
): HandState {
  const call = () => player.exchange.view().calls.get(callId);
  for (const move of moves) player.plan(begin + move.afterMs, () => make(player, move));
  const end = begin + untilMs;
  player.run(end + 1, () => player.now > begin && call() === undefined);
  const now = call();
  const { say } = heard;
  const speaks = now?.activity.kind === 'step' && say !== null;
  const offer = now === undefined ? null : offerOf(now);
  const ringing = new Set(now?.legs.flatMap(({ id, state }) => (state === 'ringing' ? [id] : [])));
  return {
    atMs: untilMs,
    over: now === undefined,
    hears: speaks ? { promptId: say.promptId, words: say.words } : null,
    keys: speaks ? [...say.keys] : [],
    listens: rests(player.exchange, 'ask') || rests(player.exchange, 'bot'),
    rings: (offer?.parts ?? [])
      .filter(({ legId }) => ringing.has(legId))
      .map(({ agent }) => ({ personId: agent.person.id, name: agent.person.name })),
    talksWith: now?.activity.kind === 'bridged' ? (now.talkingAgent?.person.name ?? null) : null,
  };
}

/** A move that means nothing any more is refused by the exchange, and nothing comes of it. */
function make(player: Player, move: HandMove): void {
  const now = player.now;
  if (move.does === 'key') return player.take(now, { kind: 'keyPressed', leg: `${callId}.1`, key: move.key });
  if (move.does === 'say')
    return player.take(now, { kind: 'spoken', leg: `${callId}.1`, words: move.words, by: 'voice' });
  if (move.does === 'hangUp') return player.take(now, { kind: 'callerHungUp', callId });
  const call = player.exchange.view().calls.get(callId);
  const leg = (call === undefined ? null : offerOf(call))?.parts.find(
    ({ agent }) => agent.person.id === move.personId,
  )?.legId;
  if (leg === undefined) return;
  if (move.does === 'decline') return player.take(now, { kind: 'legFailed', leg, cause: 'declined' });
  player.take(now, { kind: 'legAnswered', leg });
  // Somebody reached outside presses the key a moment later.
  player.plan(now + acceptsAfterMs, { kind: 'keyPressed', leg, key: acceptKey });
}
