import type { Finding } from './finding.ts';

/** Of answering plans and prompts, what readiness looks at. */
export interface AnsweringInput {
  plans: {
    id: string;
    name: string;
    published: boolean;
    /** Faults in what callers meet now: something it names has gone since. */
    liveFaults: number;
    /** Numbers that lead there. */
    numbers: number;
  }[];
  /** Prompts that some plan plays. */
  prompts: { id: string; name: string; published: boolean; hasSound: boolean; clipping: boolean }[];
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

export function answeringFindings({ plans, prompts, boxes, storageFull }: AnsweringInput): Finding[] {
  return [
    ...plans.flatMap(({ id, name, published, liveFaults, numbers }): Finding[] => {
      const item = { area: 'answering', itemId: id, itemName: name, detail: String(liveFaults) } as const;
      if (!published && numbers > 0) return [{ code: 'planNotPublished', severity: 'fault', ...item }];
      return liveFaults > 0 ? [{ code: 'planFaulty', severity: 'fault', ...item }] : [];
    }),
    ...prompts.flatMap(({ id, name, published, hasSound, clipping }): Finding[] => {
      const item = { area: 'prompts', itemId: id, itemName: name, detail: '' } as const;
      if (!published) return [{ code: 'promptNotPublished', severity: 'missing', ...item }];
      if (!hasSound) return [{ code: 'promptWithoutSound', severity: 'missing', ...item }];
      return clipping ? [{ code: 'promptClipping', severity: 'missing', ...item }] : [];
    }),
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
