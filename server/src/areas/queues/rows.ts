import type { QueueDraft, QueueView } from '@night-bell/core/contracts/queues';
import type { Outcome } from '@night-bell/core/model/outcomes';
import { destinationColumns, destinationFrom } from '../../spine/destinations.ts';

/** A queue as it is read, with its members and skills. */
export interface QueueRow {
  id: string;
  version: number;
  retired: boolean;
  name: string;
  extension: string | null;
  priority: number;
  ring_seconds: number;
  wrap_up_seconds: number;
  max_waiting: number | null;
  when_full_kind: string;
  when_full_item: string | null;
  max_wait_seconds: number | null;
  when_too_long_kind: string;
  when_too_long_item: string | null;
  when_nobody_kind: string | null;
  when_nobody_item: string | null;
  hours_id: string | null;
  when_closed_kind: string | null;
  when_closed_item: string | null;
  when_all_away_kind: string | null;
  when_all_away_item: string | null;
  leave_key: string | null;
  when_leaves_kind: string;
  when_leaves_item: string | null;
  keeps_time: QueueDraft['keepsTime'];
  age_points: number;
  ages_across: boolean;
  record_priorities: QueueDraft['recordPriorities'];
  rings_away: string[];
  rings_in_wrap_up: boolean;
  most_texts: number | null;
  music_id: string | null;
  announce_seconds: number | null;
  announcement_id: string | null;
  tells_place: boolean;
  tells_wait: boolean;
  call_back: QueueDraft['callBack'];
  phone_shows: QueueDraft['phoneShows'];
  goal_percent: number;
  goal_seconds: number;
  joins: QueueDraft['joins'];
  at_closing: 'serve' | 'sendOn';
  prefer_owner: boolean;
  distribution: QueueDraft['distribution'];
  rings_at_most: number;
  turns: QueueDraft['turns'];
  recording: QueueDraft['recording'];
  recording_notice_id: string | null;
  may_pause: QueueDraft['mayPause'];
  script: string;
  outcomes: Outcome[];
  box_id: string | null;
  members: string[];
  skills: QueueDraft['skills'];
  people_count: number;
}

/** A queue as it is shown. */
export const viewOf = (row: QueueRow): QueueView => ({
  id: row.id,
  version: row.version,
  retired: row.retired,
  name: row.name,
  extension: row.extension,
  priority: row.priority,
  ringSeconds: row.ring_seconds,
  wrapUpSeconds: row.wrap_up_seconds,
  members: row.members,
  ...{ distribution: row.distribution, turns: row.turns, ringsAtMost: row.rings_at_most },
  skills: row.skills,
  maxWaiting: row.max_waiting,
  whenFull: destinationFrom(row.when_full_kind, row.when_full_item)!,
  maxWaitSeconds: row.max_wait_seconds,
  whenTooLong: destinationFrom(row.when_too_long_kind, row.when_too_long_item)!,
  whenNobody: destinationFrom(row.when_nobody_kind, row.when_nobody_item),
  hoursId: row.hours_id,
  whenClosed: destinationFrom(row.when_closed_kind, row.when_closed_item),
  atClosing: row.at_closing,
  ...waitingOf(row),
  preferOwner: row.prefer_owner,
  recording: row.recording,
  ...{ recordingNoticeId: row.recording_notice_id, mayPause: row.may_pause },
  script: row.script,
  outcomes: row.outcomes,
  voicemailBoxId: row.box_id,
  peopleCount: row.people_count,
});

/** What waiting in it is like. */
function waitingOf(row: QueueRow) {
  return {
    joins: row.joins,
    whenAllAway: destinationFrom(row.when_all_away_kind, row.when_all_away_item),
    leaveKey: row.leave_key,
    whenLeaves: destinationFrom(row.when_leaves_kind, row.when_leaves_item)!,
    keepsTime: row.keeps_time,
    ...{ agePoints: row.age_points, agesAcross: row.ages_across },
    recordPriorities: row.record_priorities,
    ...{ ringsAway: row.rings_away, ringsInWrapUp: row.rings_in_wrap_up, mostTexts: row.most_texts },
    ...{ musicId: row.music_id, announceSeconds: row.announce_seconds },
    ...{ announcementId: row.announcement_id, tellsPlace: row.tells_place, tellsWait: row.tells_wait },
    ...{ callBack: row.call_back, phoneShows: row.phone_shows },
    ...{ goalPercent: row.goal_percent, goalSeconds: row.goal_seconds },
  };
}

/** What is written of it; members and skills have tables of their own. */
export function columnsOf(draft: QueueDraft) {
  const full = destinationColumns(draft.whenFull!);
  const tooLong = destinationColumns(draft.whenTooLong!);
  const nobody = destinationColumns(draft.whenNobody);
  const closed = destinationColumns(draft.whenClosed);
  const allAway = destinationColumns(draft.whenAllAway);
  const leaves = destinationColumns(draft.whenLeaves!);
  return {
    priority: draft.priority,
    ring_seconds: draft.ringSeconds,
    wrap_up_seconds: draft.wrapUpSeconds,
    max_waiting: draft.maxWaiting,
    when_full_kind: full.kind,
    when_full_item: full.item,
    max_wait_seconds: draft.maxWaitSeconds,
    when_too_long_kind: tooLong.kind,
    when_too_long_item: tooLong.item,
    when_nobody_kind: nobody.kind,
    when_nobody_item: nobody.item,
    ...{ hours_id: draft.hoursId, at_closing: draft.atClosing },
    ...{ when_closed_kind: closed.kind, when_closed_item: closed.item },
    ...{ when_all_away_kind: allAway.kind, when_all_away_item: allAway.item },
    ...{ leave_key: draft.leaveKey, when_leaves_kind: leaves.kind, when_leaves_item: leaves.item },
    keeps_time: JSON.stringify(draft.keepsTime),
    ...{ age_points: draft.agePoints, ages_across: draft.agesAcross },
    record_priorities: JSON.stringify(draft.recordPriorities),
    rings_away: JSON.stringify(draft.ringsAway),
    ...{ rings_in_wrap_up: draft.ringsInWrapUp, most_texts: draft.mostTexts },
    ...{ music_id: draft.musicId, announce_seconds: draft.announceSeconds },
    announcement_id: draft.announcementId,
    ...{ tells_place: draft.tellsPlace, tells_wait: draft.tellsWait },
    call_back: draft.callBack === null ? null : JSON.stringify(draft.callBack),
    phone_shows: JSON.stringify(draft.phoneShows),
    ...{ goal_percent: draft.goalPercent, goal_seconds: draft.goalSeconds },
    prefer_owner: draft.preferOwner,
    ...{ distribution: draft.distribution, rings_at_most: draft.ringsAtMost },
    ...{
      recording: draft.recording,
      recording_notice_id: draft.recordingNoticeId,
      may_pause: draft.mayPause,
    },
    script: draft.script,
    outcomes: JSON.stringify(draft.outcomes),
  };
}
