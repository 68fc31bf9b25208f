import { spokenSeconds } from '../../plan/spoken.ts';
import { placeAndWait } from '../../plan/waiting-words.ts';
import { expectedWaitMs } from '../../staffing/expected-wait.ts';
import type { Call } from '../calls/call.ts';
import { effect, isTold, note, play } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { setTimer } from '../kernel/timers.ts';
import { promptFor } from '../media/prompt-for.ts';
import { aheadOf } from './place.ts';
import type { QueueState } from './queue.ts';

/** The caller hears the queue's music, and announcements when their time comes. */
export function beginSounds(state: State, call: Call, queue: QueueState): void {
  const { hears } = queue.item;
  const music = hears?.musicId == null ? undefined : state.prompts.get(hears.musicId);
  if (music === undefined) play(state, call, call.legs[0]!.id, 'waiting');
  else
    effect(state, {
      ...{ kind: 'play' as const, callId: call.id, leg: call.legs[0]!.id, prompt: 'waiting' as const },
      promptId: music.id,
    });
  setNext(state, call, queue);
}

function setNext(state: State, call: Call, { item: { hears } }: QueueState): void {
  if (hears == null || hears.everySeconds === null) return;
  setTimer(state, call, 'announce', state.now + hears.everySeconds * 1_000);
}

/**
 * It is time to tell the caller something: the queue's prompt, their place, and how long it may take. What cannot be
 * known is not said. The music goes on behind it.
 */
export function announce(state: State, call: Call): void {
  const queue = call.queue!;
  const { hears } = queue.item;
  if (hears == null) return;
  setNext(state, call, queue);
  const ahead = aheadOf(call, queue);
  const waitMs = hears.tellsWait ? expectedWaitMs(ahead, queue.present, queue.measured) : null;
  const place = hears.tellsPlace ? ahead + 1 : null;
  const prompt = hears.promptId === null ? undefined : promptFor(state, call, hears.promptId);
  const words = placeAndWait(place, waitMs, call.language);
  const on = {
    kind: 'say',
    callId: call.id,
    leg: call.legs[0]!.id,
    keys: keysOf(queue),
    optional: true,
  } as const;
  if (prompt !== undefined)
    effect(state, { ...on, promptId: prompt.id, words: prompt.words, seconds: prompt.seconds });
  const seconds = words === '' ? 0 : spokenSeconds(words);
  if (words !== '') effect(state, { ...on, promptId: null, words, seconds });
  if (isTold(state))
    note(state, {
      ...{ callId: call.id, at: state.now, kind: 'announced', place, waitMs, words },
      language: call.language,
      prompt: prompt === undefined ? null : { id: prompt.id, name: prompt.name },
      seconds: seconds + (prompt?.seconds ?? 0),
    });
}

const keysOf = ({ item: { leaveKey, callBack } }: QueueState) =>
  [callBack?.key, leaveKey].filter((key) => key != null);
