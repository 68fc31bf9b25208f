import type { PlanDraft, PlanView } from '@night-bell/core/contracts/plans';
import type { StepKindName } from '@night-bell/core/model/plan';
import { emptyDocument } from '@night-bell/core/plan/document';
import { planApi } from '../../api/plans.ts';
import type { ItemArea } from '../../kit/item-area.ts';

export { findingWords, kindWords } from '@night-bell/core/plan/finding-words';
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
  textBack:
    'Text back sends the caller a text, with fields of their record like {{ record.name }}. Nobody who opted out gets one; a withheld number cannot.',
  ask: 'Ask puts a question and goes on by what the caller says, as the phrases tell. With a text, the caller may type the answer instead.',
  bot: 'Bot hands the caller to a bot outside, turn by turn. What it finds out goes on with the call; a bot that does not answer has a way of its own.',
  recording:
    'Set recording says whether talks are recorded from here on, and plays the notice. Nobody is recorded who did not hear it to its end.',
  whenLeft:
    'When they left says what is done then: a note to their record, a text. Put it near the beginning; callers pass it.',
  afterTalk:
    'After the talk says what follows for the caller when our side hangs up first: a survey, a text. Put it before the queue; callers pass it.',
  survey: 'Survey puts one question, answered by a key from 1 to 5. Several questions are several of these.',
  region:
    'Region goes by how the caller’s number begins, as a table says: area codes, beginnings of numbers, places. The longest that fits wins; a withheld number has a way of its own.',
  hours:
    'Hours goes one way while a set of opening hours is open and another while it is closed. A holiday and a storm follow closed unless they lead somewhere of their own.',
  ring: 'Ring tries one person for some seconds. Nobody waits in it: whoever should wait belongs in a queue.',
  ringSeveral:
    'Ring several rings people, teams and numbers outside: at once, or one after the other, for some rounds. Whoever lifts first has the call. Nobody waits in it.',
  ringGroup:
    'Ring group rings a group as it is set. What leads nowhere here follows the group’s own ways out.',
  takePart: 'Lets whoever dials a code sit out of ring groups, or take part again.',
  serviceCode: 'Does what a code of the house does.',
  comeBack: 'Return goes back to the plan that came here, behind its step. Without one the call ends.',
  extension:
    'Extension entry lets the caller type an extension. Where one is the beginning of another, the shorter waits for the time between digits. # ends it.',
  optOut: 'Opt out takes the caller off every list: no campaign calls them again.',
  otherPhones: 'Rings the other phones of a person, one after the other.',
  queue:
    'Queue lets the caller wait for an agent. What leads nowhere here follows what the queue itself says.',
  callBack: 'Call back asks callers whether they want to be called back in their turn; who does not waits.',
  voicemail: 'Voicemail takes a message in a box. The call ends there.',
  voicemailMenu:
    'Open voicemail lets somebody hear their messages from any phone, by the PIN of the box, and record its greeting. Wrong PINs lock it for a while.',
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
    'ask',
    'bot',
    'rules',
    'region',
    'record',
    'customerNumber',
    'owner',
    'textBack',
    'afterTalk',
    'survey',
    'recording',
    'whenLeft',
    'hours',
    'extension',
    'ring',
    'ringSeveral',
    'ringGroup',
    'queue',
    'callBack',
    'voicemail',
    'voicemailMenu',
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
