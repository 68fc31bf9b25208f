import type { RecordTalk, TalkRecording } from '../../model/recording.ts';
import type { PromptItem, QueueItem } from '../../model/configuration.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { Refusal } from '../kernel/events.ts';
import { effect, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { promptFor } from './prompt-for.ts';

/**
 * A caller goes on to a queue that records all its talks, unless their plan said otherwise.
 *
 * @returns the notice they must hear before; null when they heard one, or the queue leaves it to the plan
 */
export function recordForQueue(state: Readonly<State>, call: Call, queue: QueueItem): PromptItem | null {
  if (call.recordingWish?.by === 'plan') return null;
  const { recording = 'asPlan', mayPause: pauses = 'talker', recordingNoticeId = null } = queue;
  call.recordingWish = recording === 'always' ? { on: true, by: 'queue', mayPause: pauses } : null;
  if (recording !== 'always' || call.toldOfRecording || recordingNoticeId === null) return null;
  return promptFor(state, call, recordingNoticeId) ?? null;
}

/**
 * A talk of a caller and an agent begins. A queue that never records wins over all, then what the plan said, then what
 * the queue wants; and nobody is recorded who was not told, or when there is no room for it.
 */
export function beginRecording(state: State, call: Call, agent: Agent): void {
  const { recordingWish: wish } = call;
  if (call.direction !== 'inbound' || wish?.on !== true) return;
  if (wish.by === 'queue' && call.queue === null) return;
  const why =
    call.queue?.item.recording === 'never'
      ? 'queueNever'
      : !call.toldOfRecording
        ? 'notTold'
        : state.storageFull
          ? 'storageFull'
          : null;
  const at = { callId: call.id, at: state.now };
  if (why !== null) return note(state, { ...at, kind: 'notRecorded', why });
  const part = ++call.recordings;
  call.recording = {
    ...{ part, personId: agent.person.id, queueId: call.queue?.item.id ?? null },
    ...{ planId: call.route.at(-1)?.plan.id ?? null, from: state.now },
    ...{ pausedAt: null, pausedBy: null, pausedMs: 0, mayPause: wish.mayPause },
  };
  tell(state, call, 'start');
  note(state, { ...at, kind: 'recordingBegan', name: agent.person.name, by: wish.by });
}

/** The talk is over, or goes on without the one whose talk it was. */
export function endRecording(state: State, call: Call): void {
  const { recording } = call;
  if (recording === null) return;
  const { part, personId, queueId, planId, from } = recording;
  const pausedMs = recording.pausedMs + (recording.pausedAt === null ? 0 : state.now - recording.pausedAt);
  tell(state, call, 'stop');
  call.recording = null;
  const recordedMs = Math.max(0, state.now - from - pausedMs);
  effect(state, {
    ...{ kind: 'talkRecorded', callId: call.id, part, personId, queueId, planId },
    ...{ from, recordedMs, pausedMs },
  });
  note(state, { callId: call.id, at: state.now, kind: 'recordingEnded', recordedMs, pausedMs });
}

/** Somebody pauses a recording by hand, or lets it go on. */
export function pauseRecording(
  state: State,
  callId: string,
  personId: string,
  paused: boolean,
): Refusal | null {
  const call = state.calls.get(callId);
  if (call === undefined) return 'unknownCall';
  const { recording } = call;
  const agent = state.agents.get(personId);
  if (recording === null || (recording.pausedBy === 'hand') === paused) return 'notRecording';
  if (recording.mayPause === 'nobody') return 'mayNotPause';
  if (recording.mayPause === 'supervisors' && recording.personId === personId) return 'mayNotPause';
  if (paused && recording.pausedBy === 'hold') recording.pausedBy = 'hand';
  else setPaused(state, call, recording, paused ? 'hand' : null);
  note(state, {
    ...{ callId, at: state.now, kind: paused ? 'recordingPaused' : 'recordingResumed' },
    name: agent?.person.name ?? 'A supervisor',
  });
  return null;
}

/** While the caller is on hold nothing of them is recorded, nor of what is said about them. */
export function holdRecording(state: State, call: Call, onHold: boolean): void {
  const { recording } = call;
  if (recording === null || recording.pausedBy !== (onHold ? null : 'hold')) return;
  setPaused(state, call, recording, onHold ? 'hold' : null);
}

function setPaused(
  state: State,
  call: Call,
  recording: TalkRecording,
  pausedBy: TalkRecording['pausedBy'],
): void {
  if (recording.pausedAt !== null) recording.pausedMs += state.now - recording.pausedAt;
  recording.pausedAt = pausedBy === null ? null : state.now;
  recording.pausedBy = pausedBy;
  tell(state, call, pausedBy === null ? 'resume' : 'pause');
}

function tell(state: State, call: Call, does: RecordTalk): void {
  const { part } = call.recording!;
  effect(state, { kind: 'recordTalk', callId: call.id, leg: call.legs[0]!.id, part, does });
}
