import type { GroupWay } from '../model/ring-group.ts';
import { mostTogether } from '../model/ring.ts';
import type { StandsAgainst, StoryRecord } from './records.ts';
import type { NewStep, Of } from './step.ts';
import { reasonsSentence } from './words.ts';

const wayWords: Record<GroupWay, { title: string; caption: string }> = {
  busy: { title: 'All of them were busy', caption: 'busy' },
  notTaken: { title: 'Nobody took it', caption: 'not taken' },
  outage: { title: 'No phone of theirs could be reached', caption: 'no phone' },
};

/** The step of a record of several who are rung, by a plan or in a ring group; null for all others. */
export function severalStep(record: StoryRecord): NewStep | null {
  const { at } = record;
  switch (record.kind) {
    case 'ringsSeveral': {
      const [first, ...others] = record.rung;
      const who =
        first === undefined
          ? 'Nobody could be rung'
          : `Rang ${named([first, ...others].map(({ name }) => name))}`;
      return {
        ...{ mark: first === undefined ? 'missed' : 'knot', at, title: who, caption: 'several' },
        reason: howRung(record),
        slack: [
          ...(record.beyond === undefined ? [] : [`${record.beyond} more: ${mostTogether} ring together`]),
          ...againstWords(record.not, at),
        ],
      };
    }
    case 'groupNotTaken':
      return {
        ...{ mark: 'missed', at, ...wayWords[record.way] },
        reason: `The caller leaves ${record.name}`,
        slack: againstWords(record.not, at),
      };
    case 'tookPart':
      return {
        ...{ mark: 'hitch', at, caption: record.takesPart ? 'takes part' : 'sits out' },
        title: record.takesPart ? 'Takes part again, by code' : 'Sits out, by code',
        reason: named(record.groups),
      };
    default:
      return null;
  }
}

/** 'Round 2 of 3, in turn behind Luis Abarca', or what else there is to say of a turn. */
function howRung({ rung, round, rounds, behind }: Of<'ringsSeveral'>): string {
  const [first] = rung;
  const how = rung.length === 1 ? `For ${first!.seconds} s` : 'Whoever lifts first has it';
  const said = [
    ...(rung.length === 0 ? [] : [how]),
    ...(rounds === 1 ? [] : [`round ${round} of ${rounds}`]),
    ...(behind === undefined ? [] : [`${behind} answered last`]),
  ].join(', ');
  return said.charAt(0).toUpperCase() + said.slice(1);
}

function againstWords(not: readonly StandsAgainst[], at: number): string[] {
  return not.map(({ name, reasons, sitsOut }) =>
    sitsOut === true ? `${name} sits out` : `${name}: ${reasonsSentence(reasons, at)}`,
  );
}

function named(names: string[]): string {
  if (names.length <= 3) return names.join(', ');
  return `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;
}
