import type { CallResult, Direction } from '@night-bell/core/exchange/effects';
import type { StoryRecord } from '@night-bell/core/exchange/records';
import { formatNumber } from '@night-bell/core/numbers/format';
import { span } from '../time.ts';
import {
  causeWords,
  countsSentence,
  notTakenWords,
  reasonsSentence,
  reachedWords,
  resultOf,
  sentOnWords,
  slackWords,
} from '../words.ts';

export type RopeMark = 'knot' | 'hitch' | 'coil' | 'missed' | 'lifted' | 'sally' | 'loop' | 'fray' | 'now';

/** One knot of the rope, and one line of the list beside it. */
export interface RopeStep {
  mark: RopeMark;
  /** Instant, UTC milliseconds. */
  at: number;
  title: string;
  reason: string;
  /** A word or two for the short rope. */
  caption: string;
  /** What would have led elsewhere. */
  slack: string[];
  /** Length of a wait or a talk. */
  ms: number;
  /** The decision behind this step, as an index into the story. */
  decision: number | null;
}

type Of<Kind extends StoryRecord['kind']> = Extract<StoryRecord, { kind: Kind }>;

/**
 * A call's story as steps of the rope. `until` closes what still lasts: now for a call in progress, the end of the
 * story for a test call.
 */
export function ropeSteps(story: readonly StoryRecord[], until: number | null = null): RopeStep[] {
  const reader = new Reader();
  story.forEach((record, index) => reader.take(record, index));
  if (until !== null) reader.close(until);
  return reader.steps;
}

class Reader {
  readonly steps: RopeStep[] = [];
  private waiting: { from: number; queue: string; reason: string; decision: number } | null = null;
  private ringing: { from: number; name: string; why: string; decision: number } | null = null;
  private direction: Direction = 'inbound';

  take(record: StoryRecord, index: number): void {
    switch (record.kind) {
      case 'launched':
        return this.launched(record);
      case 'contactLifted':
        return this.add({
          mark: 'lifted',
          at: record.at,
          title: `Lifted after ${Math.round(record.rangMs / 1000)} s`,
          reason: 'Whoever lifted greets first',
          caption: 'lifted',
        });
      case 'greeted':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: record.by === 'person' ? 'A person' : 'An answering machine',
          reason:
            record.by === 'person'
              ? `Greeting of ${seconds(record.greetingMs)}; an agent must come within ${seconds(record.withinMs)}`
              : `Greeting of ${seconds(record.greetingMs)}`,
          caption: record.by,
        });
      case 'noAgentInTime':
        this.endWait(record.at);
        this.ringing = null;
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: 'No agent in time',
          reason: `Nobody within ${seconds(record.afterMs)}: the message plays, the call counts as abandoned`,
          caption: 'no agent',
        });
      case 'optedOut':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: 'Opted out',
          reason:
            record.how === 'key'
              ? 'Pressed the key: never called again'
              : 'Put on the opt-out list meanwhile',
          caption: 'opted out',
        });
      case 'lineDialled':
        this.direction = 'line';
        return this.add({
          mark: 'knot',
          at: record.at,
          title: `Dialled ${formatNumber(record.to)}`,
          reason: `Outside number of ${record.name}, over ${record.trunkName}`,
          caption: 'dialled',
        });
      case 'lineHeld':
        return this.add({
          mark: 'sally',
          at: record.at,
          title: `${record.name} accepted`,
          reason: 'The line is held open between calls',
          caption: record.name,
        });
      case 'askedToAccept':
        return this.askedToAccept(record);
      case 'arrived':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: `Came in on ${formatNumber(record.to)}`,
          reason: [
            record.label,
            `from ${record.callerName ?? formatNumber(record.from)}`,
            record.record === null ? null : 'known in the records',
          ]
            .filter(Boolean)
            .join(', '),
          caption: 'comes in',
        });
      case 'ledNowhere':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: 'Leads nowhere',
          reason: nowhereReason(record.why),
          caption: 'nowhere',
        });
      case 'dialledBy':
        this.direction = 'dialled';
        return this.add({
          mark: 'knot',
          at: record.at,
          title: `${record.name} dialled ${formatNumber(record.to)}`,
          reason: '',
          caption: 'dials',
        });
      case 'wayOut':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: `Goes out as ${formatNumber(record.digits)}`,
          reason: record.emergency
            ? 'A call for help: always out, as dialled, with the address'
            : record.ruleName === null
              ? 'As it stands, no dialling rule is asked'
              : `Dialling rule ${record.ruleName}`,
          caption: 'out',
        });
      case 'outsideRings':
        this.ringing = {
          from: record.at,
          name: 'outside',
          why: `Over ${record.trunkName}, ${record.callerId === '' ? 'no number shown' : `shown ${formatNumber(record.callerId)}`}`,
          decision: -1,
        };
        return;
      case 'wayFailed':
        this.ringing = null;
        return this.add({
          mark: 'missed',
          at: record.at,
          title: `Not over ${record.trunkName}`,
          reason: causeWords(record.cause),
          caption: record.trunkName,
        });
      case 'noWay':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: 'No way out',
          reason:
            record.why === 'noMatch' ? 'No dialling rule fits these digits' : 'This is nothing one can dial',
          caption: 'no way',
        });
      case 'forwarded':
        this.add({
          mark: 'lifted',
          at: this.ringing?.from ?? record.at,
          title: `Rang outside ${Math.round(record.rangMs / 1000)} s`,
          reason: this.ringing?.why ?? '',
          caption: 'rings',
        });
        this.ringing = null;
        return this.add({
          mark: 'sally',
          at: record.at,
          title: `${formatNumber(record.name)} lifted`,
          reason: 'Talks',
          caption: formatNumber(record.name),
        });
      case 'wrongPin':
        return this.add({
          mark: 'missed',
          at: record.at,
          title: 'Wrong PIN',
          reason: `Try ${record.tries} of 3`,
          caption: 'PIN',
        });
      case 'joinedRoom':
        return this.add({
          mark: 'sally',
          at: record.at,
          title: `Into ${record.name}`,
          reason: record.others === 0 ? 'The first one there' : `${record.others} there already`,
          caption: record.name,
        });
      case 'faxTone':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: record.name,
          reason: 'The fax tone answers',
          caption: 'fax',
        });
      case 'faxReceived':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: record.pages === 1 ? '1 page came in' : `${record.pages} pages came in`,
          reason: 'Kept as a file',
          caption: 'pages',
        });
      case 'sentTo':
        return;
      case 'enteredQueue':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: `Queue ${record.name}`,
          reason: `${record.signedIn} signed in, ${ahead(record.ahead)}`,
          caption: record.name,
          slack: record.otherwise.map((way) => slackWords(way.because, way.limit, way.name)),
        });
      case 'decision':
        return this.decision(record, index);
      case 'directDecision':
        return this.direct(record, index);
      case 'notTaken':
        return this.notTaken(record);
      case 'answered':
        return this.answered(record);
      case 'takenFrom':
        return this.takenFrom(record);
      case 'handedOver':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: `${record.name} handed the caller over to ${record.to}`,
          reason: `Talked ${span(record.talkedMs)}`,
          caption: 'over',
        });
      case 'held':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: `${record.name} put the caller on hold`,
          reason: 'Another call was answered',
          caption: 'held',
        });
      case 'resumed':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: `${record.name} came back`,
          reason: 'The other call was over',
          caption: 'back',
        });
      case 'sentOn':
        this.endWait(record.at);
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: `Sent on from ${record.name}`,
          reason: sentOnWords(record.because, record.limit),
          caption: 'sent on',
        });
      case 'tooManySteps':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: `Went in circles for ${record.steps} steps`,
          reason: 'The fallback was taken',
          caption: 'circles',
        });
      case 'voicemail':
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: record.name,
          reason: 'The greeting plays, then the tone',
          caption: 'voicemail',
        });
      case 'turnedAway':
        return this.add({
          mark: 'knot',
          at: record.at,
          title: 'Told that nobody can take the call',
          reason: '',
          caption: 'told',
        });
      case 'ended':
        return this.ended(record);
    }
  }

  /** What still lasts, lasts until now. */
  close(at: number): void {
    if (this.steps.at(-1)?.mark === 'loop' || this.steps.at(-1)?.mark === 'fray') return;
    this.endWait(at);
    if (this.ringing !== null) {
      const { from, name, why, decision } = this.ringing;
      const shown = decision < 0 ? null : decision;
      this.add({
        mark: 'lifted',
        at: from,
        title: `Rings ${name}`,
        reason: why,
        caption: 'rings',
        decision: shown,
      });
      this.ringing = null;
    }
    const last = this.steps.at(-1);
    if (last?.mark === 'sally') {
      last.ms = at - last.at;
      last.reason = `Talks, ${span(last.ms)} so far`;
    }
    this.add({ mark: 'now', at, title: 'Now', reason: '', caption: 'now' });
  }

  private launched(record: Of<'launched'>): void {
    this.direction = 'outbound';
    const { pace, free, inAir, keptName } = record;
    const allowed =
      keptName === null
        ? `${free} free, ${inAir} in the air: ${pace.ratio} for each`
        : `${keptName} is kept for it${pace.why === 'atLimit' ? ', at the abandon limit' : ''}`;
    this.add({
      mark: 'knot',
      at: record.at,
      title: `Dialled ${formatNumber(record.to)}`,
      reason: `${record.campaignName}, attempt ${record.attempt}, over ${record.trunkName}, shown ${formatNumber(record.callerId)}. ${allowed}`,
      caption: 'dialled',
    });
  }

  private decision(record: Of<'decision'>, index: number): void {
    if (record.chosen === null) {
      this.waiting ??= {
        from: record.at,
        queue: record.queueName,
        reason: `Nobody free: ${countsSentence(record.candidates.counts) || 'the queue has no members'}`,
        decision: index,
      };
      return;
    }
    this.endWait(record.at);
    this.ringing = {
      from: record.at,
      name: record.chosenName ?? '',
      why: whyChosen(record),
      decision: index,
    };
  }

  private direct(record: Of<'directDecision'>, index: number): void {
    if (record.rings) {
      this.ringing = { from: record.at, name: record.name, why: 'Called directly', decision: index };
      return;
    }
    this.add({
      mark: 'hitch',
      at: record.at,
      title: `${record.name} cannot be rung`,
      reason: reasonsSentence(record.reasons, record.at),
      caption: record.name,
      decision: index,
    });
  }

  /** At an outside number lifting is not answering yet. */
  private askedToAccept(record: Of<'askedToAccept'>): void {
    if (this.direction !== 'line') this.rang(record.at, record.name, record.rangMs);
    this.add({
      mark: 'knot',
      at: record.at,
      title: `Lifted at ${formatNumber(record.to)}`,
      reason: `Outside number of ${record.name}: asked to press 1, so that no mailbox takes the call`,
      caption: 'press 1',
    });
  }

  private notTaken(record: Of<'notTaken'>): void {
    const rests = record.restsUntil === null ? '' : `, rests ${span(record.restsUntil - record.at)}`;
    const lifted = record.reason === 'notAccepted';
    this.add({
      mark: 'missed',
      at: this.ringing?.from ?? record.at,
      title: lifted
        ? `${record.name} did not press 1`
        : `Rang ${record.name} ${Math.round(record.rangMs / 1000)} s`,
      reason: `${notTakenWords(record.reason)}${record.setAway ? ', set away' : rests}. ${this.ringing?.why ?? ''}`,
      caption: record.name,
      decision: this.ringing?.decision ?? null,
    });
    this.ringing = null;
  }

  /** It rang one, and another took it on their phone. */
  private takenFrom(record: Of<'takenFrom'>): void {
    this.add({
      mark: 'missed',
      at: this.ringing?.from ?? record.at,
      title: `Rang ${record.fromName} ${Math.round(record.rangMs / 1000)} s`,
      reason: `${record.name} took it. ${this.ringing?.why ?? ''}`,
      caption: record.fromName,
      decision: this.ringing?.decision ?? null,
    });
    this.ringing = {
      from: record.at,
      name: record.name,
      why: `Took the call of ${record.fromName}`,
      decision: -1,
    };
  }

  private rang(at: number, name: string, rangMs: number): void {
    this.add({
      mark: 'lifted',
      at: this.ringing?.from ?? at,
      title:
        this.direction === 'outbound' && rangMs < 1_500
          ? `Put through to ${name} at once`
          : `Rang ${name} ${Math.round(rangMs / 1000)} s`,
      reason: this.ringing?.why ?? '',
      caption: `rings ${name.split(' ')[0]}`,
      decision: this.ringing?.decision ?? null,
    });
    this.ringing = null;
  }

  private answered(record: Of<'answered'>): void {
    // Over an outside number it rang before it was accepted; over an open line it never rings.
    const ringing = this.ringing !== null && record.phone !== 'openLine';
    if (ringing) this.rang(record.at, record.name, record.rangMs);
    const why = ringing ? '' : (this.ringing?.why ?? '');
    this.ringing = null;
    this.add({
      mark: 'sally',
      at: record.at,
      title:
        record.phone === null || record.phone === 'softphone'
          ? `${record.name} answered`
          : `${record.name} answered, ${reachedWords[record.phone]}`,
      reason: `${this.direction === 'outbound' ? 'The contact' : 'The caller'} had waited ${span(record.waitedMs)}${why === '' ? '' : `. ${why}`}`,
      caption: record.name,
    });
  }

  private ended(record: Of<'ended'>): void {
    this.endWait(record.at);
    if (this.ringing !== null) {
      const { from, name, why, decision } = this.ringing;
      this.add({
        mark: 'missed',
        at: from,
        title: `Rang ${name} ${Math.round((record.at - from) / 1000)} s`,
        reason: `The caller hung up meanwhile. ${why}`,
        caption: name,
        decision,
      });
      this.ringing = null;
    }
    const sally = this.steps.findLast((step) => step.mark === 'sally');
    if (sally !== undefined) {
      sally.ms = record.talkedMs;
      sally.reason = `Talked ${span(record.talkedMs)}`;
    }
    const proper = [
      'answered',
      'forwarded',
      'conference',
      'fax',
      'voicemail',
      'lineClosed',
      'machine',
      'optedOut',
    ].includes(record.result);
    const who = this.whoEnded(record);
    const wrapUp =
      record.wrapUpSeconds === null || record.wrapUpSeconds === 0
        ? ''
        : `, ${record.wrapUpSeconds} s of wrap-up follow`;
    const message = record.messageMs === null ? '' : `, message of ${span(record.messageMs)}`;
    this.add({
      mark: proper ? 'loop' : 'fray',
      at: record.at,
      title: who,
      reason: `${resultOf(record.result, this.direction)}${this.cause(record.result)}${message}${wrapUp}`,
      caption: resultOf(record.result, this.direction).toLowerCase(),
    });
  }

  private whoEnded({ by, result }: Of<'ended'>): string {
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

  private cause(result: CallResult): string {
    return isFailure(result) ? `, ${causeWords(result)}` : '';
  }

  private endWait(at: number): void {
    if (this.waiting === null) return;
    const { from, queue, reason, decision } = this.waiting;
    this.waiting = null;
    if (at - from < 1_000) return;
    this.add({
      mark: 'coil',
      at: from,
      title: `Waited ${span(at - from)} in ${queue}`,
      reason,
      caption: `waits ${span(at - from)}`,
      ms: at - from,
      decision,
    });
  }

  private add(
    step: Pick<RopeStep, 'mark' | 'at' | 'title' | 'reason' | 'caption'> & Partial<RopeStep>,
  ): void {
    this.steps.push({ slack: [], ms: 0, decision: null, ...step });
  }
}

function ownerAway(record: Of<'decision'>): string {
  return record.owner === null ? '' : `; ${record.owner.name}, who looks after the record, could not be rung`;
}

const failures = ['busy', 'refused', 'noRoute', 'congestion', 'unreachable'] as const;

function isFailure(result: CallResult): result is (typeof failures)[number] {
  return (failures as readonly string[]).includes(result);
}

function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}

function ahead(callers: number): string {
  if (callers === 0) return 'nobody ahead';
  return callers === 1 ? '1 caller ahead' : `${callers} callers ahead`;
}

function whyChosen(record: Of<'decision'>): string {
  switch (record.why) {
    case 'onlyOne':
      return `The only one free of ${record.candidates.total}${ownerAway(record)}`;
    case 'longestIdle':
      return `Idle longest of ${record.candidates.eligible} free${ownerAway(record)}`;
    case 'triedAllOthers':
      return 'Tried before, as were all others who are free';
    case 'recordOwner':
      return "Looks after the caller's record, and is free";
    case 'keptForThis':
      return 'Was kept free for this call';
    case 'nobodyEligible':
      return '';
  }
}

function nowhereReason(why: Of<'ledNowhere'>['why']): string {
  switch (why) {
    case 'unknownNumber':
      return 'This number is not one of ours';
    case 'unroutedNumber':
      return 'This number has no destination';
    case 'destinationGone':
      return 'Its destination was deactivated';
  }
}
