import { ringsAgainAfterSeconds } from '../model/distribution.ts';
import type { Direction } from './facts.ts';
import { span } from './span.ts';
import type { NewStep, Of } from './step.ts';
import { notTakenWords } from './words.ts';

/** Somebody is rung: since when, why, and by which decision of the story; below 0 when no queue made one. */
export interface Ringing {
  from: number;
  name: string;
  why: string;
  decision: number;
  slack?: string[];
  /** How many still ring; one where it does not say. */
  left?: number;
}

/** Some of those who were rung did not take it; null when nobody rings any more. */
export function withoutOne(ringing: Ringing | null, count = 1): Ringing | null {
  const left = (ringing?.left ?? 1) - count;
  return ringing === null || left <= 0 ? null : { ...ringing, left };
}

/** Who is rung, as a step names them. */
export function rungNames({ chosenName, together = [] }: Of<'decision'>): string {
  const others = together.length - 1;
  if (others <= 0) return chosenName ?? '';
  return others === 1 ? together.map(({ name }) => name).join(' and ') : `${chosenName} and ${others} others`;
}

export function noneLiftedStep(record: Of<'noneLifted'>, ringing: Ringing | null): NewStep {
  return {
    mark: 'missed',
    at: ringing?.from ?? record.at,
    title: `Rang ${ringing?.name ?? ''} ${Math.round(record.rangMs / 1000)} s`,
    reason: `Nobody lifted; nobody rests for it, and they are rung again after ${ringsAgainAfterSeconds} s. ${ringing?.why ?? ''}`,
    caption: ringing?.name ?? '',
    decision: ringing?.decision ?? null,
  };
}

export function notTakenStep(record: Of<'notTaken'>, ringing: Ringing | null): NewStep {
  const rests =
    record.backOffUntil === null || record.reason === 'unattended'
      ? ''
      : `, rests ${span(record.backOffUntil - record.at)}`;
  const lifted = record.reason === 'notAccepted';
  return {
    mark: 'missed',
    at: ringing?.from ?? record.at,
    title: lifted
      ? `${record.name} did not press 1`
      : `Rang ${record.name} ${Math.round(record.rangMs / 1000)} s`,
    reason: `${notTakenWords(record.reason)}${record.setAway ? ', set away' : rests}. ${ringing?.why ?? ''}`,
    caption: record.name,
    decision: ringing?.decision ?? null,
  };
}

/** It rang one, and another took it on their phone. */
export function pickedUpStep(record: Of<'pickedUp'>, ringing: Ringing | null): NewStep {
  return {
    mark: 'missed',
    at: ringing?.from ?? record.at,
    title: `Rang ${record.fromName} ${Math.round(record.rangMs / 1000)} s`,
    reason: `${record.name} took it. ${ringing?.why ?? ''}`,
    caption: record.fromName,
    decision: ringing?.decision ?? null,
  };
}

export function rangStep(
  at: number,
  name: string,
  rangMs: number,
  ringing: Ringing | null,
  direction: Direction,
): NewStep {
  return {
    mark: 'lifted',
    at: ringing?.from ?? at,
    title:
      direction === 'outbound' && rangMs < 1_500
        ? `Put through to ${name} at once`
        : `Rang ${name} ${Math.round(rangMs / 1000)} s`,
    reason: ringing?.why ?? '',
    caption: `rings ${name.split(' ')[0]}`,
    decision: ringing?.decision ?? null,
    slack: ringing?.slack ?? [],
  };
}
