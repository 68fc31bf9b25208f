/** The index: one word for each area, with its folio number, which is also its jump key. */
export interface Area {
  folio: number;
  word: string;
  path: string;
  /** Findings of this area, by the name readiness gives it. */
  findings:
    'people' | 'trunks' | 'dialling' | 'queues' | 'numbers' | 'records' | 'sources' | 'campaigns' | null;
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
  area(3, 'Dialling', '/dialling', { findings: 'dialling' }),
  area(4, 'Numbers', '/numbers', { findings: 'numbers' }),
  area(5, 'Queues', '/queues', { findings: 'queues' }),
  area(6, 'Records', '/records', { findings: 'records', rule: true }),
  area(7, 'Sources', '/sources', { findings: 'sources' }),
  area(8, 'Campaigns', '/campaigns', { findings: 'campaigns' }),
  area(9, 'Opt-outs', '/opt-outs'),
  area(10, 'Floor', '/floor', { rule: true }),
  area(11, 'Calls', '/calls', { agents: true }),
  area(12, 'Desk', '/desk', { agents: true }),
  area(13, 'Stand-ins', '/stand-ins', { rule: true }),
];
