import type { QueueRequest, QueueSkill, QueueView } from '@night-bell/core/contracts/queues';
import type { Destination } from '@night-bell/core/model/destination';
import { type DistributionKind, usuallyRung } from '@night-bell/core/model/distribution';
import type { MayPause, QueueRecording } from '@night-bell/core/model/recording';
import type { CallBackFirst, CallBackRules } from '@night-bell/core/model/call-back';
import type { Outcome } from '@night-bell/core/model/outcomes';
import {
  type PhoneLine,
  type RecordPriority,
  usualPhoneLines,
  type WayOut,
} from '@night-bell/core/model/waiting';
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
  joins: 'Join later',
  whenAllAway: 'All away',
  leaveKey: 'Key to leave',
  whenLeaves: 'The key leads to',
  keepsTime: 'Time waited counts on',
  agePoints: 'A minute adds',
  agesAcross: 'Age counts across queues',
  recordPriorities: 'Priority by record',
  ringsAway: 'Rings who is away for',
  ringsInWrapUp: 'Rings in wrap-up',
  mostTexts: 'Open texts',
  musicId: 'Music',
  announceSeconds: 'Announced every',
  announcementId: 'Announcement',
  tellsPlace: 'Tells the place',
  tellsWait: 'Tells the wait',
  callBack: 'Call-back',
  phoneShows: 'Phones show',
  goalPercent: 'Aimed at',
  goalSeconds: 'Within',
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
/** Keys that a caller who waits may press; null for none. */
export const waitingKeys = [
  { value: null, title: 'none' },
  ...[...'1234567890*#'].map((key) => ({ value: key, title: key })),
];
export const phoneLineChoices: readonly { value: PhoneLine; title: string }[] = [
  { value: 'queue', title: 'the queue' },
  { value: 'caller', title: 'the caller' },
  { value: 'number', title: 'the number dialled' },
  { value: 'source', title: 'the call source' },
];
const wayWords: Record<WayOut, string> = {
  queueFull: 'when full',
  waitedTooLong: 'waited too long',
  nobodySignedIn: 'nobody in',
  allAway: 'all away',
  closed: 'while closed',
  pressed: 'by the key',
};
export const callBackFirstChoices: readonly { value: CallBackFirst; title: string }[] = [
  { value: 'agent', title: 'the agent, who hears the caller ring' },
  { value: 'caller', title: 'the caller, then an agent' },
];
export const usualCallBack = (): CallBackRules => ({
  ...{ key: '5', offerAfterSeconds: 120, first: 'agent', tries: 3, retryMinutes: 10 },
  ...{ fromHour: 8, toHour: 21 },
});
function callBackWords(rules: CallBackRules | null): string {
  if (rules === null) return 'none';
  const { key, offerAfterSeconds, first, tries, retryMinutes, fromHour, toHour } = rules;
  return [
    key === null ? 'by plans only' : `by ${key}`,
    offerAfterSeconds === null ? 'never offered' : `offered after ${offerAfterSeconds} s`,
    `${first} first`,
    `${tries} tries, every ${retryMinutes} minutes`,
    `${fromHour} to ${toHour}`,
  ].join(', ');
}
/** In a word or two, for lists. */
export const distributionWords: Readonly<Record<DistributionKind, string>> = {
  longestIdle: 'longest idle',
  roundRobin: 'round robin',
  inOrder: 'in order',
  allAtOnce: 'all at once',
  fewestCalls: 'fewest calls',
  bestSkill: 'best skill',
  random: 'at random',
};
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
    if (field === 'joins')
      return (
        (value as { memberId: string; afterSeconds: number }[])
          .map(({ memberId, afterSeconds }) => `${nameOf(memberId)} from ${afterSeconds} s`)
          .join(', ') || 'nobody'
      );
    if (field === 'keepsTime') return (value as WayOut[]).map((way) => wayWords[way]).join(', ') || 'never';
    if (field === 'recordPriorities')
      return (
        (value as RecordPriority[])
          .map((rule) => `${rule.field} ${rule.value}: ${rule.priority}`)
          .join(', ') || 'none'
      );
    if (field === 'ringsAway') return (value as string[]).join(', ') || 'nobody who is away';
    if (field === 'mostTexts') return value === null ? 'do not count' : `not from ${String(value)} on`;
    if (field === 'musicId') return value === null ? "the house's own" : nameOf(value as string);
    if (field === 'announcementId') return value === null ? 'none' : nameOf(value as string);
    if (field === 'announceSeconds') return value === null ? 'never' : `${String(value)} s`;
    if (field === 'phoneShows')
      return (value as PhoneLine[]).map((line) => titleOf(phoneLineChoices, line)).join(', ');
    if (field === 'callBack') return callBackWords(value as CallBackRules | null);
    if (field === 'leaveKey') return value === null ? 'none' : String(value);
    if (field === 'goalPercent') return `${String(value)} %`;
    if (field === 'agePoints') return `${String(value)} points`;
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
        (value as QueueSkill[])
          .map(({ skillId, minimum, relaxes = [] }) =>
            [
              `${nameOf(skillId)} ${minimum}`,
              ...relaxes.map((step) => `${step.minimum} from ${step.afterSeconds} s`),
            ].join(', then '),
          )
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
    ...{ joins: [], whenAllAway: null, leaveKey: null, keepsTime: [], agePoints: 0, agesAcross: false },
    ...{ recordPriorities: [], ringsAway: [], ringsInWrapUp: false, mostTexts: null, musicId: null },
    ...{ announceSeconds: null, announcementId: null, tellsPlace: false, tellsWait: false },
    callBack: null,
    ...{ phoneShows: [...usualPhoneLines], goalPercent: 80, goalSeconds: 20 },
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
