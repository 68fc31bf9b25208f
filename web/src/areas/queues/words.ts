import type { QueueRequest, QueueView } from '@night-bell/core/contracts/queues';
import type { Destination } from '@night-bell/core/model/destination';
import { type DistributionKind, usuallyRung } from '@night-bell/core/model/distribution';
import type { MayPause, QueueRecording } from '@night-bell/core/model/recording';
import type { Outcome } from '@night-bell/core/model/outcomes';
import { queuesApi } from '../../api/lists.ts';
import type { ItemArea } from '../../kit/item-area.ts';
import { outcomesWords } from '../../kit/words.ts';

export const queueWords: ItemArea<QueueRequest, QueueView>['words'] = {
  name: 'Name',
  extension: 'Extension',
  priority: 'Priority',
  ringSeconds: 'Rings each for',
  wrapUpSeconds: 'Wrap-up',
  members: 'Members',
  distribution: 'Rings',
  turns: 'Turns',
  ringsAtMost: 'Ring together',
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
  recording: 'Talks are',
  recordingNoticeId: 'Notice',
  mayPause: 'May pause',
  script: 'Script',
  outcomes: 'Outcomes',
};

export const distributionChoices: readonly { value: DistributionKind; title: string }[] = [
  { value: 'longestIdle', title: 'who is idle longest' },
  { value: 'roundRobin', title: 'who comes behind the last who answered' },
  { value: 'inOrder', title: 'who stands first in the list' },
  { value: 'allAtOnce', title: 'everybody at once' },
  { value: 'fewestCalls', title: 'who answered fewest calls today' },
  { value: 'bestSkill', title: 'who is best at what it asks for' },
  { value: 'random', title: 'anybody, at random' },
];
export const recordingChoices: readonly { value: QueueRecording; title: string }[] = [
  { value: 'asPlan', title: 'recorded as the plan says' },
  { value: 'always', title: 'always recorded' },
  { value: 'never', title: 'never recorded' },
];
export const pauseChoices: readonly { value: MayPause; title: string }[] = [
  { value: 'talker', title: 'whoever talks, and supervisors' },
  { value: 'supervisors', title: 'supervisors only' },
  { value: 'nobody', title: 'nobody' },
];
const titleOf = (of: readonly { value: string; title: string }[], value: unknown) =>
  of.find((each) => each.value === value)?.title ?? String(value);

export function destinationWords(
  destination: Destination | null,
  nameOf: (id: string) => string,
  none: string,
): string {
  if (destination === null) return none;
  return destination.kind === 'end' ? 'Say that nobody can take the call' : nameOf(destination.id);
}

function showQueue(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'hoursId') return value === null ? 'always open' : nameOf(value as string);
    if (field === 'atClosing') return value === 'sendOn' ? 'who waits is sent on' : 'who waits is served';
    if (field === 'recording') return titleOf(recordingChoices, value);
    if (field === 'distribution') return titleOf(distributionChoices, value);
    if (field === 'turns')
      return (
        (value as { memberId: string; turn: number }[])
          .map(({ memberId, turn }) => `${nameOf(memberId)} ${turn}`)
          .join(', ') || 'everybody 1'
      );
    if (field === 'mayPause') return titleOf(pauseChoices, value);
    if (field === 'recordingNoticeId') return value === null ? 'none' : nameOf(value as string);
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

/** Queues; `nameOf` names what their fields lead to. */
export const queueArea = (nameOf: (id: string) => string): ItemArea<QueueRequest, QueueView> => ({
  api: queuesApi,
  page: '/queues',
  savedAs: 'queues',
  title: 'Queues',
  one: 'queue',
  second: (queue) => {
    if (queue === null) return 'With a voicemail box of its own';
    return queue.extension === null ? 'Queue' : `Queue, extension ${queue.extension}`;
  },
  // Where callers go beyond the limits is left open: to its own voicemail box, which is made with it.
  fresh: () => ({
    ...{
      name: '',
      extension: null,
      priority: 0,
      ringSeconds: 15,
      wrapUpSeconds: 20,
      members: [],
      skills: [],
    },
    ...{ distribution: 'longestIdle', turns: [], ringsAtMost: usuallyRung },
    ...{ maxWaiting: null, maxWaitSeconds: 300, hoursId: null, whenClosed: null, atClosing: 'serve' },
    ...{ recording: 'asPlan', recordingNoticeId: null, mayPause: 'talker' },
    ...{ preferOwner: false, script: '', outcomes: [] },
  }),
  draftOf: ({
    id: _id,
    version: _version,
    retired: _retired,
    voicemailBoxId: _box,
    peopleCount: _count,
    ...draft
  }) => draft,
  words: queueWords,
  show: showQueue(nameOf),
  first: 'Queue',
  tabs: [{ key: 'times', title: 'By time' }],
  unused: 'Nothing leads to this queue yet. Give a number this destination.',
  finds: ({ extension }) => extension ?? '',
  made: ({ name }) => `${name} is made, with a voicemail box of its own.`,
});
