import type { RuleDraft, RuleView } from '@night-bell/core/contracts/dialling-rules';
import type { RuleWarning } from '../../api/client.ts';
import { rulesApi } from '../../api/lists.ts';
import type { ItemArea } from '../../kit/item-area.ts';

export const useWords = { everybody: 'Everybody', people: 'People', campaigns: 'Campaigns' } as const;

export const ruleWords: Record<keyof RuleDraft, string> = {
  name: 'Name',
  pattern: 'Pattern',
  strip: 'Left out',
  prepend: 'Put in front',
  trunkIds: 'Trunks',
  use: 'For',
  teamIds: 'Teams',
};

function showRule(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'trunkIds') return (value as string[]).map(nameOf).join(', then ') || 'any';
    if (field === 'teamIds') return (value as string[]).map(nameOf).join(', ') || 'all';
    if (field === 'use') return useWords[value as keyof typeof useWords];
    return value === '' ? 'nothing' : String(value);
  };
}

/** Dialling rules; `nameOf` names trunks and teams. */
export const ruleArea = (nameOf: (id: string) => string): ItemArea<RuleDraft, RuleView> => ({
  api: rulesApi,
  page: '/dialling',
  savedAs: 'rules',
  title: 'Dialling',
  one: 'rule',
  second: 'What was dialled, and what goes out',
  fresh: () => ({
    name: '',
    pattern: '',
    strip: 0,
    prepend: '',
    trunkIds: [],
    use: 'everybody',
    teamIds: [],
  }),
  draftOf: ({ name, pattern, strip, prepend, trunkIds, use, teamIds }) => ({
    ...{ name, pattern, strip, prepend, trunkIds, use, teamIds },
  }),
  words: ruleWords,
  show: showRule(nameOf),
  first: 'Rule',
  finds: ({ pattern }) => pattern,
});

/** What the rule makes of what was dialled, in one line. */
export function changeWords({ strip, prepend }: Pick<RuleView, 'strip' | 'prepend'>): string {
  const parts = [
    ...(strip > 0 ? [`without the first ${strip}`] : []),
    ...(prepend === '' ? [] : [`${prepend} in front`]),
  ];
  return parts.length === 0 ? 'as dialled' : parts.join(', ');
}

export const verdictWords = {
  wins: 'This one',
  lessSpecific: 'Fits, but less specific',
  noMatch: 'Does not fit',
  notForThem: 'Fits, but is not for them',
  emergency: 'Fits, but emergency numbers are never touched',
} as const;

export function warningWords(warning: RuleWarning, nameOf: (id: string) => string): string {
  switch (warning.kind) {
    case 'shadowed': {
      const by = warning.by ?? [];
      return by.length === 1
        ? `Never reached: whatever fits it goes to ${nameOf(by[0]!)}.`
        : `Never reached: ${by.length} more specific rules together take everything that fits it.`;
    }
    case 'overlap':
      return `As specific as ${nameOf(warning.otherId ?? '')}; for ${warning.example ?? ''} only the order decides.`;
    case 'catchAll':
      return 'Sends anything of any length anywhere. A slip of the finger costs money.';
    case 'emergency':
      return `Would rewrite ${warning.digits ?? ''}. Emergency numbers go out as dialled, so it does nothing for them.`;
  }
}
