import type { Direction } from './facts.ts';
import type { StoryRecord } from './records.ts';
import { formatNumber } from '../numbers/format.ts';
import { span } from './span.ts';
import { callBackRecord, callBackStep } from './call-back-steps.ts';
import { callerStep } from './caller-steps.ts';
import { severalStep } from './several-steps.ts';
import { plainStep, seconds } from './plain-steps.ts';
import type { NewStep, Of, RopeStep, StepSound } from './step.ts';
import { directionOf } from './direction.ts';
import { endedStep } from './ending.ts';
import {
  noneLiftedStep,
  notTakenStep,
  pickedUpStep,
  rangStep,
  type Ringing,
  rungNames,
  withoutOne,
} from './ringing-steps.ts';
import { announcedStep, easierStep } from './waiting-steps.ts';
import { whyChosen } from './why-chosen.ts';

import { causeWords, countsSentence, reasonsSentence, reachedWords, sentOnWords } from './words.ts';

/**
 * A call's story as steps of the rope. `until` closes what still lasts: now for a call in progress, the end of the
 * story for a test call.
 */
export function ropeSteps(story: readonly StoryRecord[], until: number | null = null): RopeStep[] {
  const reader = new Reader(directionOf(story));
  story.forEach((record, index) => reader.take(record, index));
  if (until !== null) reader.close(until);
  return reader.steps;
}

class Reader {
  readonly steps: RopeStep[] = [];
  private waiting: { from: number; queue: string; reason: string; decision: number } | null = null;
  private music: StepSound[] = [];
  private ringing: Ringing | null = null;
  private readonly direction: Direction;

  constructor(direction: Direction) {
    this.direction = direction;
  }

  take(record: StoryRecord, index: number): void {
    if (record.kind === 'enteredQueue')
      this.music =
        record.music === undefined
          ? []
          : [{ promptId: record.music.id, words: record.music.name, language: null }];
    // Who is off the line hears nothing.
    if (record.kind === 'callBackPromised') this.music = [];
    if (record.kind === 'announced' || record.kind === 'easierToServe') return this.meanwhile(record);
    const callBack = callBackRecord(record);
    if (callBack !== null) return this.callBack(callBack);
    const plain = plainStep(record) ?? callerStep(record) ?? severalStep(record);
    if (plain !== null) {
      if (record.kind === 'transferCancelled') this.ringing = null;
      return this.add(plain);
    }
    switch (record.kind) {
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
      case 'askedToAccept':
        return this.askedToAccept(record);
      case 'outsideRings':
        this.ringing = {
          from: record.at,
          name: 'outside',
          why: `Over ${record.trunkName}, ${record.callerId === '' ? 'no number shown' : `shown ${formatNumber(record.callerId)}`}`,
          decision: -1,
        };
        return;
      case 'trunkFailed':
        this.ringing = null;
        return this.add({
          mark: 'missed',
          at: record.at,
          title: `Not over ${record.trunkName}`,
          reason: causeWords(record.cause),
          caption: record.trunkName,
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
      case 'sentTo':
        return;
      case 'decision':
        return this.decision(record, index);
      case 'directDecision':
        return this.direct(record, index);
      case 'notTaken':
        this.add(notTakenStep(record, this.ringing));
        this.ringing = withoutOne(this.ringing);
        return;
      case 'noneLifted':
        this.add(noneLiftedStep(record, this.ringing));
        this.ringing = withoutOne(this.ringing, record.count);
        return;
      case 'answered':
        return this.answered(record);
      case 'pickedUp':
        this.add(pickedUpStep(record, this.ringing));
        this.ringing = {
          from: record.at,
          name: record.name,
          why: `Took the call of ${record.fromName}`,
          decision: -1,
        };
        return;
      case 'ringsElsewhere':
        this.ringing = {
          from: record.at,
          name: record.name,
          why: `Elsewhere: ${reachedWords[record.phone]}`,
          decision: -1,
        };
        return;
      case 'consultationBegun':
        this.add({
          mark: 'hitch',
          at: record.at,
          title: `${record.name} announces the caller to ${record.toName}`,
          reason: 'The caller is held',
          caption: 'held',
        });
        this.ringing = {
          from: record.at,
          name: record.toName,
          why: `To hear from ${record.name} who is there`,
          decision: -1,
        };
        return;
      case 'consulted':
        this.rang(record.at, record.name, record.rangMs);
        return this.add({
          mark: 'knot',
          at: record.at,
          title: `${record.byName} tells ${record.name} who is there`,
          reason: '',
          caption: 'told',
        });
      case 'sentOn':
        this.endWait(record.at);
        return this.add({
          mark: 'hitch',
          at: record.at,
          title: `Sent on from ${record.name}`,
          reason: `${sentOnWords(record.because, record.limit, record.key)}${record.keepsTime === true ? '. The time waited counts on' : ''}`,
          caption: 'sent on',
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
      this.add({
        mark: 'lifted',
        at: from,
        title: `Rings ${name}`,
        reason: why,
        caption: 'rings',
        decision,
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
      name: rungNames(record),
      why: whyChosen(record),
      decision: index,
      left: record.together?.length ?? 1,
    };
  }

  /** Something in the middle of a wait, which goes on behind it. */
  private meanwhile(record: Of<'announced'> | Of<'easierToServe'>): void {
    const { waiting } = this;
    this.endWait(record.at);
    if (waiting !== null) this.waiting = { ...waiting, from: record.at };
    this.add(record.kind === 'announced' ? announcedStep(record) : easierStep(record));
  }

  /** A call-back has two parts: the caller leaves the line, and is called when their turn comes. */
  private callBack(record: NonNullable<ReturnType<typeof callBackRecord>>): void {
    const { kind, at } = record;
    const { waiting } = this;
    if (kind === 'callBackTaken') this.rang(at, record.name, record.rangMs);
    else this.endWait(at);
    if (kind === 'calledBack' || kind === 'callBackFailed') this.ringing = null;
    const goesOn = kind === 'callBackOffered' || kind === 'callBackAsked' || kind === 'callBackRefused';
    if (goesOn && waiting !== null) this.waiting = { ...waiting, from: at };
    this.add(callBackStep(record));
    if (kind === 'callBackPromised' || (kind === 'callBackFailed' && record.againAt !== null))
      this.waiting = { from: at, queue: 'line', reason: 'Off the line, in their place', decision: -1 };
  }

  private direct(record: Of<'directDecision'>, index: number): void {
    if (record.rings) {
      this.ringing = {
        from: record.at,
        name: record.name,
        why: 'Called directly',
        decision: index,
        slack: otherwiseOf(record),
      };
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

  private rang(at: number, name: string, rangMs: number): void {
    this.add(rangStep(at, name, rangMs, this.ringing, this.direction));
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
      // Of a call that was handed over, each has talked for their part.
      sally.ms = Math.min(record.talkedMs, record.at - sally.at);
      sally.reason = `Talked ${span(sally.ms)}`;
    }
    this.add(endedStep(record, this.direction));
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
      sounds: this.music,
    });
  }

  /** A negative `decision` stands for one that no queue made. */
  private add({ decision = null, ...step }: NewStep): void {
    const made = decision !== null && decision >= 0 ? decision : null;
    this.steps.push({ slack: [], sounds: [], ms: 0, ...step, decision: made });
  }
}

/** Stories of earlier days do not tell it. */
function otherwiseOf({ ringSeconds, otherwise }: Of<'directDecision'>): string[] {
  if ((otherwise as string[] | undefined) === undefined) return [];
  return [`not lifted in ${ringSeconds} s: ${otherwise.join(', then ')}`];
}
