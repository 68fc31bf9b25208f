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
    | 'answering'
    | 'prompts'
    | 'hours'
    | 'destinations'
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
  area(3, 'Dialling', '/dialling', { findings: 'dialling', holds: '/codes' }),
  area(4, 'Numbers', '/numbers', { findings: 'numbers' }),
  area(5, 'Answering', '/answering', { findings: 'answering', rule: true, holds: '/regions' }),
  area(6, 'Hours', '/hours', { findings: 'hours' }),
  area(7, 'Prompts', '/prompts', { findings: 'prompts' }),
  area(8, 'Queues', '/queues', { findings: 'queues' }),
  area(9, 'Ring groups', '/ring-groups'),
  area(10, 'Destinations', '/destinations', { holds: '/voicemail', findings: 'destinations' }),
  area(11, 'Records', '/records', { findings: 'records', rule: true }),
  area(12, 'Sources', '/sources', { findings: 'sources' }),
  area(13, 'Campaigns', '/campaigns', { findings: 'campaigns' }),
  area(14, 'Opt-outs', '/opt-outs'),
  area(15, 'Blocked list', '/blocked'),
  area(16, 'Floor', '/floor', { rule: true }),
  area(17, 'Calls', '/calls', { findings: 'calls', agents: true, holds: '/set-aside' }),
  area(18, 'Desk', '/desk', { agents: true }),
  area(19, 'Changes', '/changes', { rule: true }),
  area(20, 'API keys', '/script-keys'),
  area(21, 'Stand-ins', '/stand-ins'),
];
