import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { PlanDocument } from '@night-bell/core/plan/document';
import { instantOf } from '../kit/time.ts';
import { useSession } from './session.ts';
import { api, ApiProblem, ask, type TestCallAnswer } from '../api/client.ts';

/** What is done in a call that is played by hand. */
export type HandDoes =
  | { does: 'key'; key: string }
  | { does: 'say'; words: string }
  | { does: 'hangUp' }
  | { does: 'lift' | 'decline'; personId: string };
type HandMove = { afterMs: number } & HandDoes;

/** The test call in the bar: what is asked, and what the exchange says. */
export const useTestCall = defineStore('test-call', () => {
  const session = useSession();
  const to = ref('');
  const from = ref('+1 360 555 0117');
  /** Empty for now; else a date and time on the company's clock. */
  const at = ref('');
  /** Keys the caller presses, in order. */
  const keys = ref('');
  /** What the caller says, one after the other, parted by slashes. */
  const says = ref('');
  /** A plan that is being built: the number leads there, for this call only. */
  const draft = shallowRef<{ name: string; document: PlanDocument } | null>(null);
  const open = ref(false);
  /** Played by hand: what was done, each so long after the call began, and how far it has come. */
  const hand = shallowRef<{ moves: HandMove[]; untilMs: number } | null>(null);
  const answer = ref<TestCallAnswer | null>(null);
  const fault = ref('');
  const running = ref(false);
  let asked = 0;

  async function run(): Promise<void> {
    if (to.value.trim() === '') return;
    const turn = ++asked;
    running.value = true;
    fault.value = '';
    try {
      const body = {
        to: to.value,
        from: from.value,
        keys: keys.value,
        says: says.value
          .split('/')
          .map((words) => words.trim())
          .filter((words) => words !== ''),
        draft: draft.value?.document ?? null,
        hand: hand.value,
        at: at.value === '' ? null : new Date(instantOf(at.value, session.timeZone)).toISOString(),
      };
      const came = await ask(api.POST('/api/test-calls', { body: body as never }));
      if (turn === asked) answer.value = came;
    } catch (error) {
      if (turn !== asked) return;
      answer.value = null;
      fault.value = error instanceof ApiProblem ? error.detail : 'The moment cannot be read.';
    } finally {
      if (turn === asked) running.value = false;
    }
  }

  /** Something is done now, or nothing for a while; the call goes on so long. */
  function play(move: HandDoes | null, forMs: number): void {
    const before = hand.value ?? { moves: [], untilMs: 0 };
    const moves = move === null ? before.moves : [...before.moves, { afterMs: before.untilMs, ...move }];
    hand.value = { moves, untilMs: before.untilMs + forMs };
    void run();
  }
  function playFromStart(): void {
    hand.value = { moves: [], untilMs: 0 };
    void run();
  }
  function playByItself(): void {
    hand.value = null;
    void run();
  }

  /** Opens the bar for this number or extension and runs the call. */
  function show(number: string): void {
    to.value = number;
    open.value = true;
    void run();
  }

  const actions = { run, show, play, playFromStart, playByItself };
  return { to, from, at, keys, says, draft, hand, open, answer, fault, running, ...actions };
});
