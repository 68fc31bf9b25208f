import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import type { PlanDocument } from '@night-bell/core/plan/document';
import { instantOf } from '../kit/time.ts';
import { useSession } from './session.ts';
import { api, ApiProblem, ask, type TestCallAnswer } from '../api/client.ts';

/** The test call in the bar: what is asked, and what the exchange says. */
export const useTestCall = defineStore('test-call', () => {
  const session = useSession();
  const to = ref('');
  const from = ref('+1 360 555 0117');
  /** Empty for now; else a date and time on the company's clock. */
  const at = ref('');
  /** Keys the caller presses, in order. */
  const keys = ref('');
  /** A plan that is being built: the number leads there, for this call only. */
  const draft = shallowRef<{ name: string; document: PlanDocument } | null>(null);
  const open = ref(false);
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
        draft: draft.value?.document ?? null,
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

  /** Opens the bar for this number or extension and runs the call. */
  function show(number: string): void {
    to.value = number;
    open.value = true;
    void run();
  }

  return { to, from, at, keys, draft, open, answer, fault, running, run, show };
});
