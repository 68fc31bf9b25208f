import type { Condition, QueueFigure, RecordTest, Rule } from '@night-bell/core/plan/rules';

/** What may be asked, as it is offered. */
export const subjects: readonly { value: Condition['about']; title: string }[] = [
  { value: 'caller', title: 'the caller' },
  { value: 'callerNumber', title: 'the caller’s number' },
  { value: 'number', title: 'the number called' },
  { value: 'source', title: 'the source' },
  { value: 'language', title: 'the language' },
  { value: 'record', title: 'a field of the record' },
  { value: 'found', title: 'what a bot found' },
  { value: 'queue', title: 'a queue' },
  { value: 'hours', title: 'opening hours' },
  { value: 'key', title: 'a key pressed' },
];

export const callerTests = [
  { value: 'known', title: 'is known' },
  { value: 'notKnown', title: 'is not known' },
  { value: 'withheld', title: 'withholds the number' },
] as const;
export const recordTests: readonly { value: RecordTest; title: string }[] = [
  { value: 'same', title: 'is' },
  { value: 'other', title: 'is not' },
  { value: 'contains', title: 'contains' },
  { value: 'atLeast', title: 'is at least' },
  { value: 'atMost', title: 'is at most' },
  { value: 'empty', title: 'is empty' },
];
export const figures: readonly { value: QueueFigure; title: string }[] = [
  { value: 'waiting', title: 'callers waiting' },
  { value: 'longestWait', title: 'longest wait, seconds' },
  { value: 'expectedWait', title: 'expected wait, seconds' },
  { value: 'free', title: 'agents free' },
];
export const bounds = [
  { value: 'atLeast', title: 'at least' },
  { value: 'atMost', title: 'at most' },
] as const;
export const states = [
  { value: 'open', title: 'are open' },
  { value: 'closed', title: 'are closed' },
  { value: 'holiday', title: 'have a holiday' },
  { value: 'storm', title: 'are closed by storm' },
] as const;

/** A condition as it is when it is added. */
export function freshCondition(about: Condition['about']): Condition {
  switch (about) {
    case 'caller':
      return { about, is: 'known' };
    case 'callerNumber':
      return { about, begins: '+1' };
    case 'number':
    case 'source':
      return { about, id: '' };
    case 'language':
      return { about, language: 'fr' };
    case 'record':
    case 'found':
      return { about, field: '', is: 'same', value: '' };
    case 'queue':
      return { about, id: '', figure: 'waiting', is: 'atLeast', value: 5 };
    case 'hours':
      return { about, id: '', state: 'storm' };
    case 'key':
      return { about, key: '1' };
  }
}

/** A name no rule of the step has yet. */
export function freeRuleId(rules: readonly Rule[]): string {
  let number = rules.length + 1;
  while (rules.some(({ id }) => id === `r${number}`)) number++;
  return `r${number}`;
}
