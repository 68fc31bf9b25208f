import type { OpenState } from '../hours/opening-hours.ts';
import type { StoryRecord } from './records.ts';
import { span } from './span.ts';
import type { NewStep } from './step.ts';

const stateWords: Record<OpenState, string> = {
  open: 'Open',
  closed: 'Closed',
  holiday: 'Closed, a holiday',
  storm: 'Closed by storm',
};

/** The step of a record of what a caller heard, was asked or pressed; null for all others. */
export function callerStep(record: StoryRecord): NewStep | null {
  const { at } = record;
  switch (record.kind) {
    case 'said':
      return {
        ...{ mark: 'knot', at, title: `Heard ${record.name}`, caption: record.name },
        reason: `${span(record.seconds * 1000)} long`,
      };
    case 'askedAgain':
      return { mark: 'knot', at, title: 'Heard it again', reason: record.name, caption: 'again' };
    case 'hoursAsked':
      return {
        ...{ mark: 'hitch', at, title: stateWords[record.state], caption: record.state },
        reason: record.because === null ? record.name : `${record.name}: today is ${record.because}`,
        slack: [record.state === 'open' ? 'closed' : 'open'],
      };
    case 'keyChosen':
      return {
        ...{
          mark: 'hitch',
          at,
          title: `Pressed ${record.key}`,
          reason: record.label,
          caption: `key ${record.key}`,
        },
        slack: record.others.map(({ key, label }) => `${key} ${label}`.trim()),
      };
    case 'wrongKey':
      return {
        ...{ mark: 'missed', at, title: `Pressed ${record.key}, which leads nowhere`, caption: 'wrong key' },
        reason: tryWords(record),
      };
    case 'extensionDialled':
      return {
        ...{
          mark: 'hitch',
          at,
          title: `Typed ${record.digits}`,
          reason: record.name,
          caption: record.digits,
        },
      };
    case 'wrongExtension':
      return {
        ...{ mark: 'missed', at, caption: 'no extension', reason: tryWords(record) },
        title: record.digits === '' ? 'Typed nothing' : `Typed ${record.digits}, which nobody has`,
      };
    case 'noKey':
      return {
        ...{ mark: 'missed', at, title: `Pressed nothing for ${record.seconds} s`, caption: 'no key' },
        reason: tryWords(record),
      };
    default:
      return null;
  }
}

function tryWords({ tries, most }: { tries: number; most: number }): string {
  return tries < most ? `Asked again, ${tries} of ${most}` : `Try ${tries} of ${most}, the last`;
}
