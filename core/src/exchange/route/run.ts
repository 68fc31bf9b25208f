import type { Destination } from '../../model/destination.ts';
import type { CompiledPlan, CompiledStep } from '../../model/plan.ts';
import { returned } from '../../plan/steps/plan.ts';
import { planTo, planWhenNobodyLifts } from '../../plan/compile.ts';
import { stepBehind } from '../../plan/graph.ts';
import { stepKinds } from '../../plan/registry.ts';
import type { Next, Reply, RingMiss, Spoken, StepKind } from '../../plan/step-kind.ts';
import { begin } from '../calls/resting.ts';
import type { Call, Frame } from '../calls/call.ts';
import { endCall } from '../calls/ending.ts';
import type { Refusal } from '../kernel/events.ts';
import { note, passed, type PassedStep, play } from '../kernel/journal.ts';
import { destinationName } from '../kernel/names.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, setTimer } from '../kernel/timers.ts';
import { whyNoMessage } from '../media/voicemail.ts';
import { beginActivity } from './begin-activity.ts';
import { CallStepContext } from './step-context.ts';

/** Steps a call may pass without the caller doing anything, before the fallback is taken. */
export const stepLimit = 100;

/** Sends a call to a destination: whatever plan it was in, that destination's own leads it now. */
export function sendTo(state: State, call: Call, destination: Destination): void {
  call.noAnswerPath = null;
  follow(state, call, planTo(destination));
}

/** A number of ours leads the call from here on. */
export function followNumber(state: State, call: Call, plan: CompiledPlan): void {
  call.noAnswerPath = null;
  call.fallback = plan.fallback;
  follow(state, call, plan);
}

/** The talk is over, and the caller goes on behind it. */
export function enterAfterTalk(state: State, call: Call, frame: Frame): void {
  call.passed = 0;
  call.noAnswerPath = null;
  call.fallback = frame.plan.fallback;
  call.route = [frame];
  enterStep(state, call, frame, null);
}

/** A plan that nothing else stands behind. */
export function followPlan(state: State, call: Call, plan: CompiledPlan): void {
  call.noAnswerPath = null;
  follow(state, call, plan);
}

/** Plans within plans; a call that goes deeper leaves the outermost behind, and cannot come back to it. */
const deepest = 10;

/** The call pins the plan, which takes the place of those it was in, or stands within them, and enters its first step. */
function follow(state: State, call: Call, plan: CompiledPlan, within = false): void {
  const frame: Frame = { plan, stepId: plan.start, memory: null };
  call.route = within ? [...call.route.slice(1 - deepest), frame] : [frame];
  if (plan.start in plan.steps) enterStep(state, call, frame, null);
  else sendTo(state, call, plan.fallback);
}

/** What the call rested in is over: its step goes on with it, or is left. */
export function activityLeft(
  state: State,
  call: Call,
  exit: string,
  otherwise: Destination | null,
  miss: RingMiss | null,
): void {
  const frame = call.route.at(-1);
  if (frame === undefined) return takeExit(state, call, exit, otherwise);
  const { kind, config } = stepOf(frame);
  const context = new CallStepContext(state, call);
  const next = kind.on?.exit?.(context, config, frame.memory, exit, miss) ?? null;
  if (next === null) takeExit(state, call, exit, otherwise);
  else take(state, call, next);
}

/** Back to the plan that went to this one. */
function comeBack(state: State, call: Call): void {
  if (call.route.length < 2) return turnAway(state, call);
  call.route = call.route.slice(0, -1);
  call.fallback = call.route.at(-1)!.plan.fallback;
  takeExit(state, call, returned, null);
}

/** The call leaves its step by an exit. Where the plan leaves that open: `otherwise`, or what its kind says. */
function takeExit(state: State, call: Call, exit: string, otherwise: Destination | null): void {
  const frame = call.route.at(-1);
  if (frame === undefined) throw new Error(`call ${call.id} has no step to leave by ${exit}`);
  const { plan, stepId } = frame;
  const next = stepBehind(plan, stepId, exit);
  if (next !== null) {
    frame.stepId = next;
    frame.memory = null;
    return enterStep(state, call, frame, { stepId, exit });
  }
  if (otherwise !== null) return sendTo(state, call, otherwise);
  const { kind, config } = stepOf(frame);
  take(state, call, kind.whenOpen(exit, config, new CallStepContext(state, call)));
}

function enterStep(state: State, call: Call, frame: Frame, by: PassedStep['by']): void {
  call.passed++;
  passed(state, { callId: call.id, planId: frame.plan.id, stepId: frame.stepId, by });
  if (call.passed > stepLimit) return runsInCircles(state, call);
  const { kind, config } = stepOf(frame);
  const destination = kind.destination(config);
  if (destination !== null) {
    call.lastDestination = destination;
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'sentTo',
      destination,
      name: destinationName(state, destination),
    });
  }
  call.queue = null;
  take(state, call, kind.enter(new CallStepContext(state, call), config));
}

/** Says it, and takes the fallback once; a caller who would still go round is turned away. */
function runsInCircles(state: State, call: Call): void {
  note(state, { callId: call.id, at: state.now, kind: 'tooManySteps', steps: stepLimit });
  const { fallback } = call;
  const takes =
    fallback.kind === 'voicemail' &&
    state.boxes.has(fallback.id) &&
    whyNoMessage(state, fallback.id) === null;
  if (takes && call.passed === stepLimit + 1)
    return beginActivity(state, call, { kind: 'record', boxId: fallback.id });
  turnAway(state, call);
}

function take(state: State, call: Call, next: Next<unknown>): void {
  if ('begin' in next) {
    if (next.remember !== undefined) call.route.at(-1)!.memory = next.remember;
    return beginActivity(state, call, next.begin);
  }
  if ('comeBack' in next) return comeBack(state, call);
  if ('exit' in next) return takeExit(state, call, next.exit, next.otherwise ?? null);
  if ('goTo' in next) return sendTo(state, call, next.goTo);
  if ('continueAs' in next) {
    const plan = state.numbers.get(next.continueAs)?.plan ?? null;
    return plan === null ? unroutable(state, call, 'unroutedNumber') : followNumber(state, call, plan);
  }
  if ('inPlan' in next) {
    const plan = state.plans.get(next.inPlan);
    if (plan === undefined) return unroutable(state, call, 'destinationGone');
    call.noAnswerPath = null;
    call.fallback = plan.fallback;
    return follow(state, call, plan, true);
  }
  if ('whenNobodyLifts' in next) {
    const agent = state.agents.get(next.whenNobodyLifts);
    return follow(
      state,
      call,
      agent === undefined ? planTo({ kind: 'end' }) : planWhenNobodyLifts(agent.person, agent.revision),
    );
  }
  if ('end' in next)
    return next.end === 'turnedAway'
      ? turnAway(state, call)
      : unroutable(state, call, next.why ?? 'destinationGone');
  rest(state, call, next.rest, next.until);
}

/** The call stays in its step. With no new instant, the one that was set still holds. */
function rest(state: State, call: Call, memory: unknown, until: number | null): void {
  call.route.at(-1)!.memory = memory;
  if (call.activity.kind !== 'step') begin(call, state.now, { kind: 'step' });
  if (until !== null) setTimer(state, call, 'activity', until);
}

/** A key of the caller in the step they rest in. */
export function stepKeyPressed(state: State, call: Call, key: string): Refusal | null {
  const frame = call.route.at(-1);
  if (frame === undefined) return 'notExpected';
  const { kind, config } = stepOf(frame);
  const next = kind.on?.key?.(new CallStepContext(state, call), config, frame.memory, key) ?? null;
  if (next === null) return 'notExpected';
  call.passed = 0;
  call.overflows = 0;
  if (!('rest' in next)) clearTimer(state, call, 'activity');
  take(state, call, next);
  return null;
}

/** The host has answered something a step asked. One that nothing waits for any more changes nothing. */
export function stepReplied(state: State, callId: string, reply: Reply): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  const frame = call.route.at(-1);
  if (frame === undefined || call.activity.kind !== 'step') return 'notExpected';
  const { kind, config } = stepOf(frame);
  const next = kind.on?.replied?.(new CallStepContext(state, call), config, frame.memory, reply) ?? null;
  if (next === null) return 'notExpected';
  if (!('rest' in next)) clearTimer(state, call, 'activity');
  take(state, call, next);
  return null;
}

/** The caller said or wrote something, in the step they rest in. */
export function stepSpoken(state: State, call: Call, spoken: Spoken): Refusal | null {
  const frame = call.route.at(-1);
  if (frame === undefined) return 'notExpected';
  const { kind, config } = stepOf(frame);
  const next = kind.on?.spoken?.(new CallStepContext(state, call), config, frame.memory, spoken) ?? null;
  if (next === null) return 'notExpected';
  call.passed = 0;
  call.overflows = 0;
  if (!('rest' in next)) clearTimer(state, call, 'activity');
  take(state, call, next);
  return null;
}

/** The instant has come until which the call was to rest in its step. */
export function stepTimedOut(state: State, call: Call): void {
  const frame = call.route.at(-1)!;
  const { kind, config } = stepOf(frame);
  const next = kind.on?.timeout?.(new CallStepContext(state, call), config, frame.memory);
  if (next !== undefined) take(state, call, next);
}

function stepOf({ plan, stepId }: Frame): { kind: StepKind; config: Readonly<Record<string, never>> } {
  const step = plan.steps[stepId] as CompiledStep;
  return { kind: stepKinds[step.kind], config: step.config as never };
}

function turnAway(state: State, call: Call): void {
  if (call.talkIsOver) return endCall(state, call, 'exchange', 'answered');
  note(state, { callId: call.id, at: state.now, kind: 'turnedAway' });
  play(state, call, call.legs[0]!.id, 'notTaken');
  endCall(state, call, 'exchange', 'turnedAway');
}

export function unroutable(
  state: State,
  call: Call,
  why: 'unknownNumber' | 'unroutedNumber' | 'destinationGone',
): void {
  note(state, { callId: call.id, at: state.now, kind: 'unroutable', why });
  endCall(state, call, 'exchange', 'unroutable');
}
