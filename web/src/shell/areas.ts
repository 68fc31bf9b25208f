/** The index: one word for each area, with its shortcut number, which is also its jump key. */
export interface Area {
  shortcut: number;
  word: string;
  path: string;
  /** Findings of this area, by the name readiness gives it. */
  findings:
    | 'people'
    | 'trunks'
    | 'dialling'
    | 'queues'
    | 'numbers'
    | 'records'
    | 'sources'
    | 'campaigns'
    | 'calls'
    | null;
  /** Whether agents see it, and whether only those who take calls do. */
  agents: boolean;
  /** A page of its own that is reached from this area. */
  holds: string | null;
  /** A rule stands above it. */
  rule: boolean;
}

const area = (shortcut: number, word: string, path: string, more: Partial<Area> = {}): Area => ({
  shortcut,
  word,
  path,
  findings: null,
  agents: false,
  holds: null,
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
  area(6, 'Destinations', '/destinations'),
  area(7, 'Records', '/records', { findings: 'records', rule: true }),
  area(8, 'Sources', '/sources', { findings: 'sources' }),
  area(9, 'Campaigns', '/campaigns', { findings: 'campaigns' }),
  area(10, 'Opt-outs', '/opt-outs'),
  area(11, 'Floor', '/floor', { rule: true }),
  area(12, 'Calls', '/calls', { findings: 'calls', agents: true, holds: '/set-aside' }),
  area(13, 'Desk', '/desk', { agents: true }),
  area(14, 'Stand-ins', '/stand-ins', { rule: true }),
];
