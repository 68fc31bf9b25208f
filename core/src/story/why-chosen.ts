import type { Of } from './step.ts';

function ownerAway(record: Of<'decision'>): string {
  return record.owner === null ? '' : `; ${record.owner.name}, who looks after the record, could not be rung`;
}

/** Why the exchange chose whom it chose, in a line. */
export function whyChosen(record: Of<'decision'>): string {
  switch (record.why) {
    case 'onlyOne':
      return `The only one free of ${record.candidates.total}${ownerAway(record)}`;
    case 'longestIdle':
      return `Idle longest of ${record.candidates.eligible} free${ownerAway(record)}`;
    case 'triedAllOthers':
      return 'Tried before, as were all others who are free';
    case 'recordOwner':
      return "Looks after the caller's record, and is free";
    case 'reservedForThis':
      return 'Was kept free for this call';
    case 'nobodyEligible':
      return '';
  }
}
