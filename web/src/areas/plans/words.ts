import type { PlanDraft, PlanView } from '@night-bell/core/contracts/plans';
import type { StepKindName } from '@night-bell/core/model/plan';
import { languageName } from '@night-bell/core/model/languages';
import type { PlanFinding } from '@night-bell/core/plan/check';
import { formatNumber } from '@night-bell/core/numbers/format';
import { emptyDocument } from '@night-bell/core/plan/document';
import type { ItemKind } from '@night-bell/core/plan/fields';
import { planApi } from '../../api/plans.ts';
import type { ItemArea } from '../../kit/item-area.ts';

export { planApi };

const stepsIn = (value: unknown) => Object.keys((value as PlanDraft['document'] | null)?.steps ?? {}).length;
export const stepCount = (count: number) => (count === 1 ? '1 step' : `${count} steps`);

export const planArea: ItemArea<PlanDraft, PlanView> = {
  api: planApi,
  page: '/answering',
  savedAs: 'plans',
  title: 'Answering',
  one: 'plan',
  second: 'What callers meet',
  fresh: () => ({ name: '', document: emptyDocument }),
  draftOf: ({ name, document }) => ({ name, document }),
  words: { name: 'Name', document: 'Steps' },
  show: (field, value) => (field === 'document' ? stepCount(stepsIn(value)) : String(value)),
  unused: 'Nothing leads to this plan yet.',
};

export function planState({ published, live, document }: PlanView): 'published' | 'changed' | 'draft' {
  if (published === null) return 'draft';
  return JSON.stringify(live) === JSON.stringify(document) ? 'published' : 'changed';
}

/** What each kind of step is for, in plain words. */
export const helpWords: Record<StepKindName, string> = {
  say: 'Say plays a prompt, then goes on. With a key the caller may hear it again.',
  keys: 'Keys puts a question and goes on by the key the caller presses. A wrong key or none asks again, as often as you say.',
  rules:
    'Rules asks one question after the other: about the caller, their record, the number, the queue, the hours, a key pressed. The first whose conditions all hold is taken; who meets none goes the other way.',
  record:
    'Record asks whether the caller’s number is in the customer records. A field of theirs may say which language they hear.',
  owner: 'Record owner rings whoever looks after the caller’s record. Nobody waits in it.',
  customerNumber:
    'Customer number lets the caller type a number or PIN, ended with #, and asks the customer system who has it. What is typed is never shown.',
  region:
    'Region goes by how the caller’s number begins, as a table says: area codes, beginnings of numbers, places. The longest that fits wins; a withheld number has a way of its own.',
  hours:
    'Hours goes one way while a set of opening hours is open and another while it is closed. A holiday and a storm follow closed unless they lead somewhere of their own.',
  ring: 'Ring tries one person for some seconds. Nobody waits in it: whoever should wait belongs in a queue.',
  ringSeveral:
    'Ring several rings people, teams and numbers outside: at once, or one after the other, for some rounds. Whoever lifts first has the call. Nobody waits in it.',
  serviceCode: 'Does what a code of the house does.',
  comeBack: 'Return goes back to the plan that came here, behind its step. Without one the call ends.',
  extension:
    'Extension entry lets the caller type an extension. Where one is the beginning of another, the shorter waits for the time between digits. # ends it.',
  optOut: 'Opt out takes the caller off every list: no campaign calls them again.',
  otherPhones: 'Rings the other phones of a person, one after the other.',
  queue:
    'Queue lets the caller wait for an agent. What leads nowhere here follows what the queue itself says.',
  voicemail: 'Voicemail takes a message in a box. The call ends there.',
  outside: 'Outside number sends the call on over a trunk.',
  room: 'Room puts the caller into a conference room, past its PIN.',
  fax: 'Fax box answers with the fax tone and keeps what comes in.',
  goTo: 'Goes on where another number of ours leads.',
  plan: 'Go to plan goes on in another answering plan, and behind this step when that one returns.',
  end: 'End says that nobody can take the call, and ends it.',
};

/** In the order in which they are offered; those that only other parts of the exchange use are left out. */
export const shelf: readonly StepKindName[] = [
  ...([
    'say',
    'keys',
    'rules',
    'region',
    'record',
    'customerNumber',
    'owner',
    'hours',
    'extension',
    'ring',
    'ringSeveral',
    'queue',
    'voicemail',
    'outside',
    'room',
    'fax',
    'plan',
    'comeBack',
    'goTo',
    'optOut',
    'end',
  ] as const),
];

export const kindWords: Record<ItemKind, string> = {
  queue: 'queue',
  person: 'person',
  voicemail: 'voicemail box',
  outside: 'outside number',
  room: 'conference room',
  fax: 'fax box',
  number: 'number',
  plan: 'answering plan',
  hours: 'set of opening hours',
  prompt: 'prompt',
  team: 'team',
  code: 'service code',
  source: 'source',
  region: 'region table',
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
    case 'ruleHidden':
      return `Nobody gets to rule ${finding.rule}: rule ${finding.by} takes them all before. Put it earlier, or take it out.`;
    case 'fieldNotThere':
      return `No record has a field ${finding.field}, which rule ${finding.rule} asks for. Was it renamed?`;
    case 'extensionHides':
      return `${finding.shorter} is the beginning of ${finding.longer}: whoever types it waits until the time between keys is over.`;
  }
}
