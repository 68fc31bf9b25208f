import type { CallResult, Direction } from './facts.ts';
import { span } from './span.ts';
import type { NewStep, Of } from './step.ts';
import { causeWords, resultOf } from './words.ts';

const lostWords =
  'It could not go on with this call, for a fault of its own; what broke is kept under Set aside';

const failures = ['busy', 'refused', 'noRoute', 'congestion', 'unreachable'] as const;

function isFailure(result: CallResult): result is (typeof failures)[number] {
  return (failures as readonly string[]).includes(result);
}

/** Whether the call came to what it was made for. */
function endedWell(result: CallResult): boolean {
  return [
    ...['answered', 'forwarded', 'conference', 'fax', 'voicemail', 'lineClosed', 'machine', 'optedOut'],
  ].includes(result);
}

/** As what the call ended, with the trade's cause of a failure. */
function endWords(result: CallResult, direction: Direction): string {
  const words = result === 'lost' ? lostWords : resultOf(result, direction);
  return isFailure(result) ? `${words}, ${causeWords(result)}` : words;
}

/** Who ended the call, in words. */
function whoEnded({ by, result }: Of<'ended'>): string {
  if (result === 'lost') return 'The exchange lost the call';
  const silent = result === 'noAnswer' || isFailure(result);
  if (by === 'contact' && silent) return result === 'noAnswer' ? 'Nobody lifted' : 'Not put through';
  switch (by) {
    case 'caller':
      return 'The caller hung up';
    case 'contact':
      return 'The contact hung up';
    case 'agent':
      return 'The agent hung up';
    case 'exchange':
      return 'The exchange ended the call';
  }
}

/** The last of a call's steps. */
export function endedStep(record: Of<'ended'>, direction: Direction): NewStep {
  const who = whoEnded(record);
  const wrapUp =
    record.wrapUpSeconds === null || record.wrapUpSeconds === 0
      ? ''
      : `, ${record.wrapUpSeconds} s of wrap-up follow`;
  const message = record.messageMs === null ? '' : `, message of ${span(record.messageMs)}`;
  return {
    mark: endedWell(record.result) ? 'loop' : 'fray',
    at: record.at,
    title: who,
    reason: `${endWords(record.result, direction)}${message}${wrapUp}`,
    caption: resultOf(record.result, direction).toLowerCase(),
  };
}
