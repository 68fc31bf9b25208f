/** The index: one word for each area, with its folio number, which is also its jump key. */
export interface Area {
  folio: number;
  word: string;
  path: string;
  /** Findings of this area, by the name readiness gives it. */
  findings: 'people' | 'queues' | 'numbers' | null;
  agents: boolean;
  /** A rule stands above it. */
  rule: boolean;
}

export const areas: Area[] = [
  { folio: 0, word: 'Set-up trail', path: '/', findings: null, agents: false, rule: false },
  { folio: 1, word: 'People', path: '/people', findings: 'people', agents: false, rule: false },
  { folio: 2, word: 'Queues', path: '/queues', findings: 'queues', agents: false, rule: false },
  { folio: 3, word: 'Numbers', path: '/numbers', findings: 'numbers', agents: false, rule: false },
  { folio: 4, word: 'Calls', path: '/calls', findings: null, agents: true, rule: true },
  { folio: 5, word: 'Stand-ins', path: '/stand-ins', findings: null, agents: false, rule: true },
];
