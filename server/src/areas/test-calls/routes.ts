import Joi from 'joi';
import { planDocument } from '@night-bell/core/contracts/plans';
import { compiledPlan, type PlanDocument } from '@night-bell/core/plan/document';
import type { BotAsked, BotReply, TestCall, TestResult } from '@night-bell/core/rehearse/test-call';
import { publicNumber } from '@night-bell/core/model/fields.schema';
import { readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { askBot } from '../bots/ask-bot.ts';
import { botDoor } from '../bots/store.ts';
import { meanTalks, usualTalkMs } from '../calls/calls.queries.ts';
import { storyRecord } from '../calls/routes.ts';
import { recordsByDigits } from '../records/look-up.ts';
import { recordByNumber } from '../records/store.ts';

const meansKeptMs = 60_000;
/** Turns of bots in one test call; each is asked for real. */
const mostBotTurns = 20;
const mostAnswersKept = 500;
/** How long a test call waits for changes of the set-up to be heard of: with many thousand people that takes seconds. */
const settleMs = 1_500;

const outcome = Joi.object({
  kind: Joi.string()
    .valid('answered', 'voicemail', 'forwarded', 'joinedRoom', 'faxTone', 'ended', 'stillWaiting')
    .required(),
  personId: Joi.string(),
  name: Joi.string(),
  result: Joi.string(),
  afterMs: Joi.number().required(),
});

const longestByHandMs = 2 * 3_600_000;
const afterMs = Joi.number().integer().min(0).max(longestByHandMs).required();
const personId = Joi.string().max(80).required();
const words = Joi.string().trim().allow('').max(300);
const hand = Joi.object({
  untilMs: afterMs,
  moves: Joi.array()
    .items(
      Joi.object({
        afterMs,
        does: Joi.string().valid('key').required(),
        key: Joi.string()
          .pattern(/^[\d*#]$/)
          .required(),
      }),
      Joi.object({ afterMs, does: Joi.string().valid('say').required(), words: words.required() }),
      Joi.object({ afterMs, does: Joi.string().valid('hangUp').required() }),
      Joi.object({ afterMs, does: Joi.string().valid('lift', 'decline').required(), personId }),
    )
    .max(200)
    .required(),
});
const handState = Joi.object({
  atMs: Joi.number().required(),
  over: Joi.boolean().required(),
  hears: Joi.object({
    promptId: Joi.string().allow(null).required(),
    words: Joi.string().allow('').required(),
  })
    .allow(null)
    .required(),
  keys: Joi.array().items(Joi.string()).required(),
  listens: Joi.boolean().required(),
  rings: Joi.array()
    .items(Joi.object({ personId: Joi.string().required(), name: Joi.string().required() }))
    .required(),
  talksWith: Joi.string().allow(null).required(),
});

/** A step of a plan the call came into, and by which exit of which other; null at a plan's beginning. */
const pathStep = Joi.object({
  planId: Joi.string().required(),
  stepId: Joi.string().allow('').required(),
  by: Joi.object({ stepId: Joi.string().required(), exit: Joi.string().required() }).allow(null).required(),
});

/** A number called, or an extension of two to six digits. */
export const dialled = Joi.alternatives(Joi.string().pattern(/^\d{2,6}$/), publicNumber).messages({
  'alternatives.match': 'Type a number like +1 206 555 0140, or an extension.',
});

/** Runs of digits that end with # or with the last key, each from every place it may begin at. */
function runsOf(keys: string): string[] {
  const runs = keys
    .split('#')
    .flatMap((run) =>
      Array.from(run, (_, from) => run.slice(from)).filter((each) => /^\d{3,20}$/.test(each)),
    );
  return [...new Set(runs)];
}

export function testCallRoutes({ database, live, beside, seal, outgoing }: Services): Route[] {
  let means: { at: number; byQueue: Promise<Map<string, number>> } = {
    at: 0,
    byQueue: Promise.resolve(new Map()),
  };

  const answered = new Map<string, BotReply>();

  const meanTalk = (): Promise<Map<string, number>> => {
    if (Date.now() - means.at > meansKeptMs) means = { at: Date.now(), byQueue: meanTalks(database) };
    return means.byQueue;
  };

  /** Whom the records know by any run of the keys that are to be pressed: which of them is typed is the plan's to say. */
  async function lookUpsOf(
    keys: string,
    draft: PlanDocument | null,
  ): Promise<NonNullable<TestCall['lookUps']>> {
    const plans = [...(draft === null ? [] : [draft]), ...live.exchange.view().plans.values()];
    const asking = plans
      .flatMap(({ steps }) => Object.values(steps))
      .filter(({ kind }) => kind === 'customerNumber');
    const runs = asking.length === 0 ? [] : runsOf(keys);
    if (runs.length === 0) return {};
    const fields = asking.map(({ config }) => String(config.field ?? ''));
    const found = await Promise.all(
      [...new Set(fields)].map((field) => recordsByDigits(database, runs, field)),
    );
    return Object.assign({}, ...found) as NonNullable<TestCall['lookUps']>;
  }

  /** Runs the call again with each answer of the bots in it, until nothing is asked of them any more. */
  async function withBots(
    call: TestCall,
    run: (call: TestCall) => Promise<TestResult>,
  ): Promise<Omit<TestResult, 'asksBot'>> {
    const botAnswers: BotReply[] = [];
    for (;;) {
      const { asksBot, ...result } = await run({ ...call, botAnswers });
      if (asksBot === undefined || botAnswers.length >= mostBotTurns) return result;
      botAnswers.push(await answerTo(asksBot));
    }
  }

  /** A call that is played by hand is run again at each move: what was asked before is not asked again. */
  async function answerTo({ asked: _asked, callId: _callId, ...turn }: BotAsked): Promise<BotReply> {
    const key = JSON.stringify(turn);
    const known = answered.get(key);
    if (known !== undefined) return known;
    const door = await botDoor(database, seal, turn.botId);
    const reply: BotReply =
      door === null
        ? { answer: null, why: 'fault' }
        : await askBot(outgoing, door, { ...turn, callId: 'test-call' });
    if (answered.size >= mostAnswersKept) answered.clear();
    if (reply.answer !== null) answered.set(key, reply);
    return reply;
  }

  return [
    route({
      method: 'POST',
      path: '/api/test-calls',
      example: { to: '+12065550140', from: '+13605550117' },
      area: 'Test calls',
      summary: 'Run the exchange on a made-up call without ringing anybody',
      who: readers,
      perMinute: 1_200,
      body: Joi.object<{
        to: string;
        from: string;
        at: Date | null;
        keys: string;
        says: string[];
        draft: PlanDocument | null;
        hand: TestCall['hand'] | null;
      }>({
        to: dialled.required(),
        from: publicNumber.required(),
        at: Joi.date()
          .iso()
          .allow(null)
          .default(null)
          .messages({ 'date.format': 'Write the moment like 2026-11-24T14:20.' }),
        keys: Joi.string()
          .allow('')
          .max(50)
          .pattern(/^[\d*#]*$/)
          .default('')
          .messages({ 'string.pattern.base': 'Keys are digits, * and #.' }),
        /** What the caller says, one after the other, where somebody listens. */
        says: Joi.array().items(words).max(20).default([]),
        /** A plan as somebody builds it: the number leads there, for this call. */
        draft: planDocument.schema.optional().allow(null).default(null),
        /** Played by hand: what was done so far, and when the call is looked at. */
        hand: hand.allow(null).default(null),
      }),
      reply: Joi.object({
        to: Joi.string().required(),
        from: Joi.string().required(),
        at: Joi.number().required(),
        story: Joi.array().items(storyRecord).required(),
        outcome: outcome.required(),
        path: Joi.array().items(pathStep).required(),
        assumptions: Joi.array().items(Joi.string()).required(),
        hand: handState,
      }),
      errors: ['exchangeAway'],
      handle: async ({ body }) => {
        if (!live.ready)
          throw new Problem('exchangeAway', 'The exchange is being rebuilt. Try again in a moment.');
        const [record, talks, settled] = await Promise.all([
          recordByNumber(database, body.from),
          meanTalk(),
          live.settledWithin(settleMs),
        ]);
        const at = body.at?.getTime() ?? Date.now();
        const lookUps = await lookUpsOf(body.keys, body.draft);
        const call = {
          ...{ to: body.to, from: body.from, at, keys: body.keys, says: body.says },
          ...(record === null ? {} : { record }),
          lookUps,
          ...(body.hand == null ? {} : { hand: body.hand }),
          ...(body.draft === null ? {} : { plan: compiledPlan('draft', 0, body.draft) }),
        };
        const result = await withBots(call, async (withAnswers) =>
          beside.testCall({
            ...{ seq: await live.committed(), call: withAnswers, now: body.at === null },
            ...{ talks: [...talks], usualTalkMs },
          }),
        );
        const assumptions = settled ? result.assumptions : [...result.assumptions, 'changesStillRead'];
        return { to: call.to, from: call.from, at, ...result, assumptions };
      },
    }),
  ];
}
