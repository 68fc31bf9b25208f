import type { ActivityKind } from '@night-bell/core/exchange/calls/activity';
import type { Call } from '@night-bell/core/exchange/calls/call';

/** What a call is at, in the words that pages know. */
export type CallStage =
  | 'routing'
  | 'waiting'
  | 'ringing'
  | 'talking'
  | 'voicemail'
  | 'dialling'
  | 'greeting'
  | 'announcement'
  | 'held'
  | 'forwarding'
  | 'forwarded'
  | 'roomDoor'
  | 'inPlan'
  | 'inRoom'
  | 'fax'
  | 'ended';

const stages: Record<ActivityKind, CallStage> = {
  step: 'inPlan',
  waiting: 'waiting',
  offered: 'ringing',
  bridged: 'talking',
  consulting: 'talking',
  recording: 'voicemail',
  dialOut: 'forwarding',
  bridgedOutside: 'forwarded',
  callingBack: 'dialling',
  conference: 'inRoom',
  receivingFax: 'fax',
  contactRings: 'dialling',
  greeting: 'greeting',
  announcement: 'announcement',
  lineOffered: 'ringing',
  lineHeld: 'held',
  ended: 'ended',
};

export function stageOf(call: Call): CallStage {
  const frame = call.route.at(-1);
  if (call.activity.kind === 'step' && frame?.plan.steps[frame.stepId]?.kind === 'room') return 'roomDoor';
  return stages[call.activity.kind];
}

/** The voicemail box that somebody has opened in this call, by its PIN; null for none. */
export function openBoxOf(call: Call | undefined): string | null {
  const frame = call?.route.at(-1);
  if (call?.activity.kind !== 'step' || frame?.plan.steps[frame.stepId]?.kind !== 'voicemailMenu')
    return null;
  const memory = frame.memory as { at: string; boxId?: string };
  return memory.at === 'menu' || memory.at === 'greeting' ? (memory.boxId ?? null) : null;
}
