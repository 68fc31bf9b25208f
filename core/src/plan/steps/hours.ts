import { standingAt } from '../../hours/opening-hours.ts';
import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { hoursId: { type: 'item', of: 'hours', label: 'Opening hours' } } as const;

/** Asks a set of opening hours. A holiday and a storm that lead nowhere follow closed. */
export const hours: StepKind<typeof fields, never> = {
  kind: 'hours',
  word: 'Hours',
  fields,
  exits: () => [
    { name: 'open', label: 'open', needed: true },
    { name: 'closed', label: 'closed', needed: true },
    { name: 'holiday', label: 'a holiday' },
    { name: 'storm', label: 'closed by storm' },
    gone,
  ],
  main: 'open',
  fresh: { hoursId: '' },
  destination: () => null,
  enter: (context, { hoursId }) => {
    const set = context.hours(hoursId);
    if (set === undefined) return { exit: gone.name };
    const { state, day } = standingAt(set, context.now);
    context.note({ kind: 'hoursAsked', hoursId, name: set.name, state, because: day?.name ?? null });
    return { exit: state };
  },
  whenOpen: (exit) => {
    if (exit === 'holiday' || exit === 'storm') return { exit: 'closed' };
    // Hours nobody keeps are no reason to send callers away.
    return exit === gone.name ? { exit: 'open' } : endWhenOpen(exit);
  },
  describe: ({ hoursId }, names) => `Ask the hours of ${names('hours', hoursId)}`,
};
