import { languageName } from '../model/languages.ts';
import { formatNumber } from '../numbers/format.ts';
import type { PlanFinding } from './check.ts';
import type { ItemKind } from './item-kind.ts';

/** How kinds of items are called in a sentence. */
export const kindWords: Record<ItemKind, string> = {
  queue: 'queue',
  person: 'person',
  voicemail: 'voicemail box',
  outside: 'outside number',
  room: 'conference room',
  ringGroup: 'ring group',
  fax: 'fax box',
  number: 'number',
  plan: 'answering plan',
  hours: 'set of opening hours',
  prompt: 'prompt',
  team: 'team',
  code: 'service code',
  source: 'source',
  region: 'region table',
  bot: 'bot',
};

/** A finding as fact, then fix. */
export function findingWords(
  finding: PlanFinding,
  nameOf: (kind: ItemKind, id: string) => string,
  numberOf: (stepId: string) => string,
): string {
  switch (finding.code) {
    case 'noStart':
      return 'There is no first step. Add one.';
    case 'unknownKind':
      return 'Nobody knows this kind of step. Take it out.';
    case 'unreachable':
      return 'No caller gets here. Tie it in, or take it out.';
    case 'config':
      return `${finding.said}.`;
    case 'gone':
      return `The ${kindWords[finding.kind]} ${nameOf(finding.kind, finding.id)} is not there. Choose another.`;
    case 'exit':
      return `The way ${finding.exit} does not exist here. Untie it.`;
    case 'open':
      return `“${finding.label}” leads nowhere: the call would end. Say where it goes.`;
    case 'circle':
      return `Callers go round ${finding.steps.map(numberOf).join(', ')} without choosing anything. Lead one of them elsewhere.`;
    case 'noKeys':
      return 'It offers no key. Add one.';
    case 'keyNotThere':
      return `The words speak of ${finding.key}, which is no key here. Add it, or change the words.`;
    case 'keyNotSaid':
      return `The words do not speak of ${finding.key}. Callers will not know of it.`;
    case 'languageMissing':
      return `${nameOf('prompt', finding.promptId)} is not there in ${languageName(finding.language)}, which callers chose. Write it under Prompts; until then they hear it as it is.`;
    case 'planCircle':
      return `From here callers come back to this plan: ${finding.plans.map((id) => nameOf('plan', id)).join(', then ')}. Lead one of them elsewhere, or let it return.`;
    case 'neverClosed':
      return 'These hours are never closed: what is behind “closed” can never be heard.';
    case 'neverOpen':
      return 'These hours are never open: what is behind “open” can never be heard.';
    case 'otherClock':
      return `These hours go by the clock of ${finding.zone}, but ${formatNumber(finding.e164)} is called elsewhere.`;
    case 'textField':
      return finding.said;
    case 'ruleHidden':
      return `Nobody gets to rule ${finding.rule}: rule ${finding.by} takes them all before. Put it earlier, or take it out.`;
    case 'fieldNotThere':
      return `No record has a field ${finding.field}, which rule ${finding.rule} asks for. Was it renamed?`;
    case 'extensionHides':
      return `${finding.shorter} is the beginning of ${finding.longer}: whoever types it waits until the time between keys is over.`;
  }
}
