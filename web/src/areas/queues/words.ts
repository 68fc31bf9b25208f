import type { Destination } from '@night-bell/core/model/destination';
import type { Outcome } from '@night-bell/core/model/outcomes';
import { outcomesWords } from '../../kit/words.ts';

/** What the fields of a queue are called, and how their values read. */
export const queueWords: Record<string, string> = {
  name: 'Name',
  extension: 'Extension',
  priority: 'Priority',
  ringSeconds: 'Rings each for',
  wrapUpSeconds: 'Wrap-up',
  members: 'Members',
  skills: 'Asks for',
  maxWaiting: 'May wait',
  whenFull: 'When full',
  maxWaitSeconds: 'Longest wait',
  whenTooLong: 'After that',
  whenNobody: 'Nobody signed in',
  hoursId: 'Opening hours',
  whenClosed: 'While closed',
  atClosing: 'At closing',
  preferOwner: "Record's owner first",
  script: 'Script',
  outcomes: 'Outcomes',
};

export function destinationWords(
  destination: Destination | null,
  nameOf: (id: string) => string,
  none: string,
): string {
  if (destination === null) return none;
  return destination.kind === 'end' ? 'Say that nobody can take the call' : nameOf(destination.id);
}

export function showQueue(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'hoursId') return value === null ? 'always open' : nameOf(value as string);
    if (field === 'atClosing') return value === 'sendOn' ? 'who waits is sent on' : 'who waits is served';
    if (field === 'whenClosed')
      return destinationWords(value as Destination | null, nameOf, 'told that nobody can take the call');
    if (field.startsWith('when')) return destinationWords(value as Destination | null, nameOf, 'they wait');
    if (field === 'outcomes') return outcomesWords(value as Outcome[]);
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    if (field === 'script') return value === '' ? 'none' : String(value);
    if (field === 'members') return (value as string[]).map(nameOf).join(', ') || 'nobody';
    if (field === 'skills')
      return (
        (value as { skillId: string; minimum: number }[])
          .map(({ skillId, minimum }) => `${nameOf(skillId)} ${minimum}`)
          .join(', ') || 'no skill'
      );
    if (value === null || value === undefined) return field === 'extension' ? 'none' : 'no limit';
    return field.endsWith('Seconds') ? `${String(value)} s` : String(value);
  };
}
