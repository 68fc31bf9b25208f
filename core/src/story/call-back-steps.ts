import type { NoCallBack } from '../model/call-back.ts';
import { formatNumber } from '../numbers/format.ts';
import { span } from './span.ts';
import type { StoryRecord } from './records.ts';
import type { NewStep, Of } from './step.ts';
import { causeWords } from './words.ts';

const notWords: Record<NoCallBack, string> = {
  withheld: 'The number is withheld',
  optedOut: 'They asked not to be called',
  already: 'They are to be called back already',
  none: 'The queue calls nobody back',
};

type CallBackRecord = Extract<StoryRecord, { kind: `callBack${string}` | 'calledBack' }>;

const isCallBack = ({ kind }: StoryRecord) => kind.startsWith('callBack') || kind === 'calledBack';

/** The record, if it is of a call-back. */
export const callBackRecord = (record: StoryRecord): CallBackRecord | null =>
  isCallBack(record) ? (record as CallBackRecord) : null;

/** What a call-back has come to. */
export function callBackStep(record: CallBackRecord): NewStep {
  const { at } = record;
  switch (record.kind) {
    case 'callBackOffered':
      return {
        ...{ mark: 'knot', at, title: 'Offered to be called back', caption: 'offered' },
        reason: `By key ${record.key}, keeping the place`,
      };
    case 'callBackAsked':
      return {
        ...{ mark: 'knot', at, title: `Called back on ${formatNumber(record.to)}?`, caption: 'confirm' },
        reason: `To be confirmed by key ${record.key}`,
      };
    case 'callBackRefused':
      return {
        ...{ mark: 'missed', at, title: 'Cannot be called back', caption: 'no call-back' },
        reason: notWords[record.why],
      };
    case 'callBackPromised':
      return {
        ...{
          mark: 'hitch',
          at,
          title: `Is called back on ${formatNumber(record.to)}`,
          caption: 'off the line',
        },
        reason: `The place is kept, ${record.ahead} ahead; ${record.first === 'agent' ? 'an agent is rung first' : 'the caller is rung first'}`,
      };
    case 'callBackTooLate':
      return {
        ...{ mark: 'knot', at, title: 'Their turn came out of hours', caption: 'later' },
        reason: `Called in ${span(record.againAt - at)}, when callers are called again`,
      };
    case 'callBackTurn':
      return {
        ...{ mark: 'hitch', at, title: 'Their turn has come', caption: 'turn' },
        reason: `${record.name} is free; the caller is called`,
      };
    case 'callBackTaken':
      return {
        ...{ mark: 'knot', at, title: `${record.name} takes it and hears it ring`, caption: record.name },
        reason: '',
      };
    case 'calledBack':
      return record.name === null
        ? { mark: 'knot', at, title: 'The caller lifted', reason: '', caption: 'lifted' }
        : {
            ...{ mark: 'sally', at, title: `${record.name} called back`, caption: record.name },
            reason: `Rang ${span(record.rangMs)}`,
          };
    case 'callBackFailed':
      return {
        ...{ mark: 'missed', at, caption: 'not reached', title: `Not reached, ${causeWords(record.cause)}` },
        reason: againWords(record),
      };
  }
}

function againWords({ at, againAt, tries, most }: Of<'callBackFailed'>): string {
  if (againAt === null) return tries === 1 ? 'Tried once; it is over' : `Tried ${tries} times; it is over`;
  return `Try ${tries} of ${most}; again in ${span(againAt - at)}`;
}
