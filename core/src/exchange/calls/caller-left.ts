import type { LeftWish } from '../../model/left-wish.ts';
import { filled, whyNotSent } from '../../plan/text-sent.ts';
import { destinationName } from '../kernel/names.ts';
import { effect, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import type { Call } from './call.ts';

/** Steps that say so in one call; the latest count. */
const mostWishes = 5;

export function wishWhenLeft(call: Call, wish: LeftWish): void {
  call.whenLeft = [...call.whenLeft.filter(({ stepId }) => stepId !== wish.stepId), wish].slice(-mostWishes);
}

/** The call is over: what its plan wants done without the caller. */
export function callerLeft(state: State, call: Call): void {
  for (const wish of call.whenLeft) {
    if (!wish.always && call.answeredAt !== null) continue;
    if (wish.note !== '') leaveNote(state, call, wish);
    if (wish.numberId !== '') sendText(state, call, wish);
  }
}

const called = ({ record, to, found }: Call) => ({ record, called: to, found });

function leaveNote(state: State, call: Call, wish: LeftWish): void {
  const at = { callId: call.id, at: state.now };
  const words = filled(wish.note, called(call));
  if (call.record === null || words === '')
    return note(state, { ...at, kind: 'noteNotLeft', why: call.record === null ? 'notKnown' : 'empty' });
  effect(state, { kind: 'recordNote', callId: call.id, recordId: call.record.id, words });
  note(state, { ...at, kind: 'noteLeft', name: call.record.name, words });
}

function sendText(state: State, call: Call, { numberId, words, hoursId }: LeftWish): void {
  const at = { callId: call.id, at: state.now };
  const body = filled(words, called(call));
  const why = whyNotSent(
    {
      ...{ from: call.from, isOptedOut: state.optedOut.has(call.from), now: state.now },
      hasNumber: state.numbers.get(numberId)?.plan != null,
      hours: state.hours.get(hoursId),
    },
    body,
  );
  if (why !== null) return note(state, { ...at, kind: 'textNotSent', why });
  effect(state, { kind: 'text', callId: call.id, numberId, to: call.from, body });
  const from = destinationName(state, { kind: 'number', id: numberId });
  note(state, { ...at, kind: 'textSent', from, body });
}
