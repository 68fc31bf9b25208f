import { languageName } from '../model/languages.ts';
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

const notSentWords = {
  withheld: 'the number is withheld',
  optedOut: 'they asked for no more calls and texts',
  closed: 'texts are sent during opening hours only',
  empty: 'nothing was left of the text',
  numberGone: 'the number it is sent from is not there',
};

const botFaultWords = {
  slow: 'within its seconds',
  fault: 'it could not be reached, or had a fault',
  nonsense: 'what it sent is no answer',
  tooLarge: 'what it sent is too large',
};

const notRecordedWords = {
  queueNever: 'this queue never records, whatever the plan says',
  notTold: 'the caller was not told that talks are recorded',
  storageFull: 'there is no room for recordings',
};

/** The step of a record of what a caller heard, was asked or pressed; null for all others. */
export function callerStep(record: StoryRecord): NewStep | null {
  const { at } = record;
  switch (record.kind) {
    case 'said':
      return {
        ...{ mark: 'knot', at, title: `Heard ${record.name}`, caption: record.name },
        reason: `${span(record.seconds * 1000)} long`,
        sounds: [{ promptId: record.promptId, words: record.name, language: null }],
      };
    case 'askedAgain':
      return { mark: 'knot', at, title: 'Heard it again', reason: record.name, caption: 'again' };
    case 'hoursAsked':
      return {
        ...{ mark: 'hitch', at, title: stateWords[record.state], caption: record.state },
        reason: record.because === null ? record.name : `${record.name}: today is ${record.because}`,
        slack: [record.state === 'open' ? 'closed' : 'open'],
      };
    case 'recordAsked':
      return {
        ...{ mark: 'hitch', at, caption: record.name === null ? 'not known' : 'known' },
        title: record.name === null ? 'Not known' : `Known as ${record.name}`,
        reason: record.by === 'typed' ? 'by the number they typed' : 'by the number they call from',
        slack: [record.name === null ? 'known' : 'not known'],
      };
    case 'wrongCustomerNumber':
      return {
        ...{ mark: 'missed', at, caption: 'not found', reason: tryWords(record) },
        title: record.digits === 0 ? 'Typed nothing' : `Typed ${record.digits} digits that no record has`,
      };
    case 'lookUpFailed':
      return {
        ...{ mark: 'missed', at, caption: 'no answer', title: 'The customer system did not answer' },
        reason: record.why === 'slow' ? `within ${record.withinSeconds} s` : 'it had a fault, or was away',
      };
    case 'textSent':
      return {
        ...{ mark: 'knot', at, caption: 'text sent', title: `Text sent from ${record.from}` },
        reason: `“${record.body}”`,
      };
    case 'textNotSent':
      return {
        ...{ mark: 'missed', at, caption: 'no text', title: 'No text was sent' },
        reason: notSentWords[record.why],
      };
    case 'surveyAnswered':
      return {
        ...{ mark: 'hitch', at, caption: `${record.answer} of 5` },
        ...{ title: `Answered ${record.answer} of 5`, reason: record.question },
      };
    case 'talkOver':
      return {
        ...{ mark: 'knot', at, title: `${record.name} hangs up`, caption: 'talk over' },
        reason: `after ${span(record.talkedMs)}; the caller goes on`,
      };
    case 'boxOpened':
      return { mark: 'hitch', at, title: `Opened ${record.name}`, reason: 'by its PIN', caption: 'opened' };
    case 'boxNotOpened':
      return {
        ...{ mark: 'missed', at, caption: 'not opened', title: `${record.name} stayed shut` },
        reason: record.why === 'noPin' ? 'it has no PIN' : 'it is locked after wrong PINs',
      };
    case 'greetingRecorded':
      return { mark: 'knot', at, title: 'Recorded a greeting', reason: record.name, caption: 'greeting' };
    case 'understood':
      return {
        ...{ mark: 'hitch', at, caption: record.answer },
        title: record.by === 'voice' ? `Said “${record.words}”` : `Wrote “${record.words}”`,
        reason: `understood as ${record.answer} by “${record.phrase}”`,
      };
    case 'notUnderstood':
      return {
        ...{ mark: 'missed', at, caption: 'not understood', reason: tryWords(record) },
        title: `“${record.words}” was not understood`,
      };
    case 'saidNothing':
      return {
        ...{ mark: 'missed', at, title: `Said nothing for ${record.seconds} s`, caption: 'nothing said' },
        reason: tryWords(record),
      };
    case 'botSaid': {
      const found = Object.entries(record.found).map(([name, value]) => `${name} is ${value}`);
      return {
        ...{ mark: 'knot', at, caption: `turn ${record.turn}` },
        title: record.words === '' ? 'The bot said nothing' : `The bot said “${record.words}”`,
        reason: found.length === 0 ? '' : `It found: ${found.join(', ')}`,
      };
    }
    case 'saidToBot':
      return {
        ...{ mark: 'hitch', at, caption: record.words === '' ? 'nothing said' : 'said', reason: '' },
        title: record.words === '' ? 'Said nothing' : `Said “${record.words}”`,
      };
    case 'botFailed':
      return {
        ...{ mark: 'missed', at, caption: 'no answer', title: `${record.name} did not answer` },
        reason: botFaultWords[record.why],
      };
    case 'botStopped':
      return {
        ...{ mark: 'missed', at, caption: 'too long', title: `${record.name} came to no end` },
        reason: `within ${record.turns} turns`,
      };
    case 'noteLeft':
      return {
        ...{ mark: 'knot', at, caption: 'note', title: `Note to ${record.name}` },
        reason: `“${record.words}”`,
      };
    case 'noteNotLeft':
      return {
        ...{ mark: 'missed', at, caption: 'no note', title: 'No note was left' },
        reason: record.why === 'notKnown' ? 'no record knows the caller' : 'nothing was left of the note',
      };
    case 'recordingSet':
      return {
        ...{ mark: record.untold ? 'missed' : 'hitch', at, caption: record.on ? 'recorded' : 'not recorded' },
        title: record.on ? 'Talks are recorded from here on' : 'Talks are not recorded from here on',
        reason: record.untold ? 'the notice is gone, so nobody is recorded' : '',
      };
    case 'recordingBegan':
      return {
        ...{ mark: 'knot', at, caption: 'recorded', title: 'Recorded' },
        reason: record.by === 'plan' ? 'as the plan says' : 'as the queue says',
      };
    case 'recordingPaused':
    case 'recordingResumed': {
      const paused = record.kind === 'recordingPaused';
      return {
        ...{ mark: 'knot', at, caption: paused ? 'paused' : 'goes on', reason: `by ${record.name}` },
        title: paused ? 'Recording paused' : 'Recording goes on',
      };
    }
    case 'recordingEnded':
      return {
        ...{ mark: 'knot', at, caption: 'kept', title: `${span(record.recordedMs)} recorded` },
        reason: record.pausedMs === 0 ? '' : `and ${span(record.pausedMs)} left out`,
      };
    case 'notRecorded':
      return {
        ...{ mark: 'missed', at, caption: 'not recorded', title: 'Not recorded' },
        reason: notRecordedWords[record.why],
      };
    case 'regionAsked':
      return {
        ...{ mark: 'hitch', at, caption: record.prefix ?? 'no region' },
        title: record.prefix === null ? 'No region fits' : `Region ${record.prefix}`,
        reason:
          record.from === null
            ? `the number is withheld, ${record.table} cannot say`
            : record.to === null
              ? `${record.table} has no row for ${record.from}`
              : `${record.table}: to ${record.to}`,
      };
    case 'rulesAsked':
      return {
        ...{ mark: 'hitch', at, caption: record.rule ?? 'no rule' },
        title: record.rule === null ? 'No rule holds' : `Rule: ${record.rule}`,
        reason:
          record.rule === null
            ? record.passed === 1
              ? 'the one rule was asked'
              : `${record.passed} rules were asked`
            : record.because,
        slack: record.others,
      };
    case 'keyChosen':
      return {
        ...{
          mark: 'hitch',
          at,
          title: `Pressed ${record.key}`,
          reason: chosenWords(record),
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
    case 'blocked':
      return {
        ...{ mark: 'knot', at, title: 'Turned away', caption: 'blocked' },
        reason: `${record.name} is on the blocked list${record.how === 'prefix' ? ', by how the number begins' : ''}`,
      };
    case 'numberBusy':
      return {
        ...{ mark: 'knot', at, title: 'Heard that it is busy', caption: 'busy' },
        reason: `${record.label} takes ${record.most === 1 ? '1 call' : `${record.most} calls`} at once`,
      };
    case 'stormByCode':
      return {
        ...{ mark: 'hitch', at, caption: record.until === null ? 'open' : 'storm' },
        title: record.until === null ? 'Opened again, by code' : 'Closed by storm, by code',
        reason: record.name,
      };
    case 'forwardLoop':
      return {
        ...{ mark: 'missed', at, title: `${record.name} was not called again`, caption: 'circle' },
        reason: `It sends calls back to us: ${record.most} of this caller are out to it already`,
      };
    default:
      return null;
  }
}

/** 'A, B and 3 more'. */
function tryWords({ tries, most }: { tries: number; most: number }): string {
  return tries < most ? `Asked again, ${tries} of ${most}` : `Try ${tries} of ${most}, the last`;
}

/** What a key was for, and the language it chose. */
const chosenWords = ({ label, language }: { label: string; language?: string }) =>
  [label, ...(language === undefined ? [] : [`in ${languageName(language)} from here on`])]
    .filter(Boolean)
    .join(', ');
