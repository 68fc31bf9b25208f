import type { Of } from './step.ts';

function ownerAway(record: Of<'decision'>): string {
  return record.owner === null ? '' : `; ${record.owner.name}, who looks after the record, could not be rung`;
}

function turnOf({ candidates }: Of<'decision'>): number {
  return candidates.listed[0]?.turn ?? 1;
}

/** Among whom, as far as that is more than one turn of the queue. */
function among(record: Of<'decision'>): string {
  const turn = record.inTurns === true ? `in turn ${turnOf(record)}, ` : '';
  return `${turn}of ${record.candidates.eligible} free${ownerAway(record)}`;
}

/** Why the exchange chose whom it chose, in a line. */
export function whyChosen(record: Of<'decision'>): string {
  switch (record.why) {
    case 'onlyOne':
      return `The only one free of ${record.candidates.total}${ownerAway(record)}`;
    case 'longestIdle':
      return `Idle longest ${among(record)}`;
    case 'roundRobin':
      return `Next in the round ${among(record)}`;
    case 'inOrder':
      return `First in the list ${among(record)}`;
    case 'random':
      return `Drawn at random ${among(record)}`;
    case 'fewestCalls':
      return `Fewest calls today ${among(record)}`;
    case 'bestSkill':
      return `Best at ${record.skills?.join(', then ') || 'no skill'} ${among(record)}`;
    case 'allAtOnce':
      return `All at once ${among(record)}`;
    case 'earlierTurn':
      return `The only one free of turn ${turnOf(record)}${ownerAway(record)}`;
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
