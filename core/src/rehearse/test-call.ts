import { type Exchange, exchangeOver } from '../exchange/exchange.ts';
import { offerOf } from '../exchange/calls/resting.ts';
import { acceptKey } from '../exchange/offers/outcome.ts';
import type { StoryRecord } from '../story/records.ts';
import type { Configuration } from '../model/configuration.ts';
import { type Outcome, outcomeOf } from '../story/outcome.ts';
import type { Player } from './player.ts';
import { acceptsAfterMs, answersAfterMs, callId, type Heard, makePlayer, rests } from './test-caller.ts';

export type { BotAsked, BotReply, HandMove, MeanTalk, PathStep, TestCall } from './test-call-asked.ts';
import type { BotAsked, HandMove, MeanTalk, PathStep, TestCall } from './test-call-asked.ts';

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

const longestMs = 2 * 3_600_000;

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
