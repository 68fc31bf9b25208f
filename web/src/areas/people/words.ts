import type { ListColumn } from '@night-bell/core/model/people-list';
import { formatNumber } from '@night-bell/core/numbers/format';
import { type NoAnswerStep, passingSteps } from '@night-bell/core/model/destination';
import type { Person } from '../../api/client.ts';
import { roleWords } from '../../kit/words.ts';

export type PersonDraft = Pick<
  Person,
  | 'name'
  | 'login'
  | 'extension'
  | 'role'
  | 'teamId'
  | 'callLimit'
  | 'ringSeconds'
  | 'signInWithPhone'
  | 'wrapUpSeconds'
  | 'startAway'
  | 'answerBySelf'
  | 'elsewhere'
  | 'skills'
  | 'looksAfter'
  | 'mail'
  | 'noAnswer'
  | 'outsideNumber'
>;

/** What of a person can be changed, as it is now. */
export function draftOf(person: Person): PersonDraft {
  const { name, login, extension, role, teamId, callLimit, ringSeconds, signInWithPhone } = person;
  const { wrapUpSeconds, startAway, answerBySelf, elsewhere, skills, looksAfter, mail, noAnswer } = person;
  const draft = {
    ...{ name, login, extension, role, teamId, callLimit, ringSeconds, signInWithPhone },
    ...{ wrapUpSeconds, startAway, answerBySelf, elsewhere, skills, looksAfter, mail, noAnswer },
    outsideNumber: person.outsideNumber,
  };
  return JSON.parse(JSON.stringify(draft)) as PersonDraft;
}

export const elsewhereWords = {
  warn: 'warn them, and let both go on',
  takeOver: 'end the other sign-in',
  refuse: 'refuse the new one',
} as const;

/** What the fields of a person are called, and how their values read. */
export const personWords: Record<string, string> = {
  name: 'Name',
  login: 'Login',
  extension: 'Extension',
  role: 'Role',
  teamId: 'Team',
  callLimit: 'Calls at once',
  ringSeconds: 'Rings for',
  signInWithPhone: 'Signs in with the phone',
  wrapUpSeconds: 'Own wrap-up',
  startAway: 'Starts away',
  answerBySelf: 'Answers by itself',
  elsewhere: 'Signed in elsewhere',
  skills: 'Skills',
  looksAfter: 'Looks after',
  mail: 'Mail',
  noAnswer: 'When nobody lifts',
  outsideNumber: 'Outside number',
};

/** What follows when nobody lifts, step by step, to where the call rests. */
export function noAnswerWords(steps: readonly NoAnswerStep[], nameOf: (id: string) => string): string[] {
  const words = steps.map((step) => {
    if (step.kind === 'otherPhones') return 'their other phones';
    return step.kind === 'end' ? 'the end of the call' : nameOf(step.id);
  });
  const last = steps.at(-1);
  return last === undefined || passingSteps.includes(last.kind) ? [...words, 'own voicemail'] : words;
}

export function showPerson(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'wrapUpSeconds' && value === null) return "the queue's";
    if (value === null || value === undefined) return 'none';
    if (field === 'elsewhere') return elsewhereWords[value as keyof typeof elsewhereWords];
    if (field === 'skills')
      return (
        (value as { skillId: string; level: number }[])
          .map(({ skillId, level }) => `${nameOf(skillId)} ${level}`)
          .join(', ') || 'none'
      );
    if (field === 'looksAfter') return (value as string[]).map(nameOf).join(', ') || 'everybody';
    if (field === 'noAnswer') return noAnswerWords(value as NoAnswerStep[], nameOf).join(', then ');
    if (field === 'teamId') return nameOf(value as string);
    if (field === 'role') return roleWords[value as keyof typeof roleWords];
    if (field === 'outsideNumber') {
      const { e164, trunkId } = value as { e164: string; trunkId: string };
      return `${formatNumber(e164)} over ${nameOf(trunkId)}`;
    }
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return field === 'ringSeconds' || field === 'wrapUpSeconds' ? `${String(value)} s` : String(value);
  };
}

/** What a column of a list of people holds. */
export const columnWords: Record<Exclude<ListColumn, null>, string> = {
  name: 'Name',
  firstName: 'First name',
  lastName: 'Surname',
  team: 'Team',
  role: 'Role',
  login: 'Login',
  extension: 'Extension',
  phone: 'Phone model',
  mail: 'Mail',
};
