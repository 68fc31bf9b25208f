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
}

export function answeringFindings({ plans, prompts }: AnsweringInput): Finding[] {
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
  ];
}
