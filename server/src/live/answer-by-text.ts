import type { Host } from './host.ts';

const longestAnswer = 1_000;

/** A caller who is asked something right now, and may answer by text, does so: it counts as if they had said it. */
export function answerByText(
  host: Host | null,
  { to, from, body }: { to: string; from: string; body: string },
): void {
  const state = host?.exchange.view();
  const numberId = state?.numberByDigits.get(to)?.id;
  if (host === null || state === undefined || numberId === undefined) return;
  for (const call of state.calls.values()) {
    if (call.from !== from || call.activity.kind !== 'step') continue;
    const frame = call.route.at(-1);
    const step = frame?.plan.steps[frame.stepId];
    if (step?.kind !== 'ask' || step.config.numberId !== numberId) continue;
    host.submit({
      ...{ kind: 'spoken', leg: `${call.id}.1`, words: body.slice(0, longestAnswer), by: 'text' },
    });
  }
}
