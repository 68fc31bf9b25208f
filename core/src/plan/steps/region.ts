import { prefixWords, regionOf } from '../regions.ts';
import { endWhenOpen, gone, type StepKind } from '../step-kind.ts';

const fields = { tableId: { type: 'item', of: 'region', label: 'Region table' } } as const;

/** Goes where the table says for how the caller's number begins; a number that is withheld has a way of its own. */
export const region: StepKind<typeof fields, never> = {
  kind: 'region',
  word: 'Region',
  fields,
  exits: () => [
    { name: 'otherwise', label: 'no row fits', needed: true },
    { name: 'withheld', label: 'number withheld' },
    gone,
  ],
  main: 'otherwise',
  fresh: { tableId: '' },
  destination: () => null,
  enter: (context, { tableId }) => {
    const table = context.regions(tableId);
    if (table === undefined) return { exit: gone.name };
    const { from } = context.facts();
    const found = regionOf(table, from);
    const isWithheld = !from.startsWith('+');
    context.note({
      kind: 'regionAsked',
      table: table.name,
      from: isWithheld ? null : from,
      prefix: found === null ? null : prefixWords(found.prefix),
      to: found === null ? null : context.nameOf(found.destination),
    });
    if (found !== null) return { goTo: found.destination };
    return { exit: isWithheld ? 'withheld' : 'otherwise' };
  },
  // Whose number is withheld is in no row either; a table that is gone knows nobody.
  whenOpen: (exit) => (exit === 'otherwise' ? endWhenOpen(exit) : { exit: 'otherwise' }),
  describe: ({ tableId }, names) => `Go by region, as ${names('region', tableId)} says`,
};
