/** The index: one word for each area, with its folio number, which is also its jump key. */
export interface Area {
  folio: number;
  word: string;
  path: string;
  /** Findings of this area, by the name readiness gives it. */
  findings: 'people' | 'trunks' | 'queues' | 'numbers' | 'records' | 'sources' | 'campaigns' | null;
  /** Whether agents see it, and whether only those who take calls do. */
  agents: boolean;
  /** A rule stands above it. */
  rule: boolean;
}

const area = (folio: number, word: string, path: string, more: Partial<Area> = {}): Area => ({
  folio,
  word,
  path,
  findings: null,
  agents: false,
  rule: false,
  ...more,
});

export const areas: Area[] = [
  area(0, 'Set-up trail', '/'),
  area(1, 'People', '/people', { findings: 'people' }),
  area(2, 'Trunks', '/trunks', { findings: 'trunks' }),
  area(3, 'Numbers', '/numbers', { findings: 'numbers' }),
  area(4, 'Queues', '/queues', { findings: 'queues' }),
  area(5, 'Records', '/records', { findings: 'records', rule: true }),
  area(6, 'Sources', '/sources', { findings: 'sources' }),
  area(7, 'Campaigns', '/campaigns', { findings: 'campaigns' }),
  area(8, 'Opt-outs', '/opt-outs'),
  area(9, 'Floor', '/floor', { rule: true }),
  area(10, 'Calls', '/calls', { agents: true }),
  area(11, 'Desk', '/desk', { agents: true }),
  area(12, 'Stand-ins', '/stand-ins', { rule: true }),
];
