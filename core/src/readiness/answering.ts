import type { Finding } from './finding.ts';

/** Of answering plans and prompts, what readiness looks at. */
export interface AnsweringInput {
  plans: {
    id: string;
    name: string;
    published: boolean;
    /** What is wrong or doubtful in what callers meet now, each in a sentence, at its step. */
    found: readonly { grade: 'fault' | 'doubt'; stepId: string; number: string; words: string }[];
    /** Numbers that lead there. */
    numbers: number;
  }[];
  /** Sets of opening hours that something goes by. */
  hours: {
    id: string;
    name: string;
    /** Neither a weekday nor an unusual day has a range. */
    neverOpen: boolean;
    /** The last of its unusual days, when none is ahead: YYYY-MM-DD. Null when one is, or it never had any. */
    lastDay: string | null;
  }[];
  /** Prompts that some plan plays. */
  prompts: { id: string; name: string; published: boolean; hasSound: boolean; clipping: boolean }[];
  /** Prompts that are somebody's own and played by a plan of a number that has nothing else to do with them. */
  ofAnother: { id: string; name: string; plan: string }[];
  /** Prompts that are left on machines. */
  leaveBehinds: { id: string; name: string }[];
  /** Numbers outside that seem to send calls back to us. */
  forwardLoops: { id: string; name: string }[];
  boxes: {
    id: string;
    name: string;
    /** Messages nobody has heard; and whether it takes no more. */
    fresh: number;
    full: boolean;
    /** People in use who may hear it, beside those who run the floor. */
    listeners: number;
    /** A greeting that belongs to another person: its name, or null. */
    greetingOfAnother: string | null;
  }[];
  /** There is no room for recordings. */
  storageFull: boolean;
}

/** So much of a name stands in a short list, such as that of an agent who chooses what to leave. */
const shortName = 16;

/** Names of which the beginning is the same as that of another: each with the one it is taken for. */
function alike(
  items: readonly { id: string; name: string }[],
): { id: string; name: string; other: string }[] {
  const first = new Map<string, string>();
  return items.flatMap(({ id, name }) => {
    const begins = name.trim().toLowerCase().slice(0, shortName);
    const other = first.get(begins);
    if (other === undefined) first.set(begins, name);
    return other === undefined ? [] : [{ id, name, other }];
  });
}

/** More of one plan are read where it is built. */
const mostOfOnePlan = 20;

export function answeringFindings(input: AnsweringInput): Finding[] {
  const { plans, hours, prompts, ofAnother, leaveBehinds, forwardLoops, boxes, storageFull } = input;
  const about = (itemId: string, itemName: string, detail = '') => ({ itemId, itemName, detail });
  return [
    ...plans.flatMap(({ id, name, published, found, numbers }): Finding[] => {
      const item = { area: 'answering', itemId: id, itemName: name } as const;
      if (!published && numbers > 0)
        return [{ code: 'planNotPublished', severity: 'fault', detail: '', ...item }];
      return found.slice(0, mostOfOnePlan).map(({ grade, stepId, number, words }) => ({
        ...(grade === 'fault'
          ? ({ code: 'planFaulty', severity: 'fault' } as const)
          : ({ code: 'planDoubtful', severity: 'missing' } as const)),
        ...item,
        ...{ detail: `step ${number}: ${words}`, place: stepId },
      }));
    }),
    ...hours.flatMap(({ id, name, neverOpen, lastDay }): Finding[] => {
      const item = { area: 'hours', itemId: id, itemName: name } as const;
      if (neverOpen) return [{ code: 'hoursNeverOpen', severity: 'missing', detail: '', ...item }];
      return lastDay === null
        ? []
        : [{ code: 'hoursDaysOver', severity: 'missing', detail: lastDay, ...item }];
    }),
    ...prompts.flatMap(({ id, name, published, hasSound, clipping }): Finding[] => {
      const item = { area: 'prompts', itemId: id, itemName: name, detail: '' } as const;
      if (!published) return [{ code: 'promptNotPublished', severity: 'missing', ...item }];
      if (!hasSound) return [{ code: 'promptWithoutSound', severity: 'missing', ...item }];
      return clipping ? [{ code: 'promptClipping', severity: 'missing', ...item }] : [];
    }),
    ...ofAnother.map(({ id, name, plan }): Finding => ({
      ...{ code: 'promptOfAnother', area: 'prompts', severity: 'fault', ...about(id, name, plan) },
    })),
    ...alike(leaveBehinds).map(({ id, name, other }): Finding => ({
      ...{ code: 'leaveBehindsAlike', area: 'prompts', severity: 'missing', ...about(id, name, other) },
    })),
    ...forwardLoops.map(({ id, name }): Finding => ({
      ...{ code: 'forwardLoop', area: 'destinations', severity: 'fault', ...about(id, name) },
    })),
    ...boxes.flatMap(({ id, name, fresh, full, listeners, greetingOfAnother }): Finding[] => {
      const item = { area: 'destinations', itemId: id, itemName: name } as const;
      return [
        ...(listeners === 0 && fresh > 0
          ? [{ code: 'boxUnheard', severity: 'fault', detail: String(fresh), ...item } as const]
          : []),
        ...(full ? [{ code: 'boxFull', severity: 'fault', detail: '', ...item } as const] : []),
        ...(greetingOfAnother === null
          ? []
          : [
              {
                code: 'boxGreetingOfAnother',
                severity: 'fault',
                detail: greetingOfAnother,
                ...item,
              } as const,
            ]),
      ];
    }),
    ...(storageFull
      ? [
          {
            ...({ code: 'storageFull', area: 'destinations', severity: 'fault' } as const),
            ...{ itemId: null, itemName: '', detail: '' },
          },
        ]
      : []),
  ];
}
