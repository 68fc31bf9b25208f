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
