import { distributionKinds } from '../model/distribution.ts';
import {
  choice,
  decimal,
  id,
  list,
  nullable,
  object,
  type Out,
  ruled,
  seconds,
  text,
  whole,
} from './parts.ts';

/** Calls of a made-up hour, which the exchange plays beside the live loop: more would keep others waiting. */
export const mostHourCalls = 30_000;
export const mostSeeds = 20;

export const hourAsked = ruled(
  object({
    distribution: choice(...distributionKinds),
    calls: whole(1, 3_000),
    talkSeconds: seconds(5, 3_600),
    /** Until a caller gives up, on average. */
    patienceSeconds: seconds(5, 7_200),
    /** Those who are signed in now, or all members. */
    people: choice('here', 'all'),
    /** One hour is played for each. */
    seeds: list(whole(1, 1_000_000), mostSeeds),
  }),
  ({ calls, seeds }) =>
    seeds.length === 0
      ? 'Ask for one hour at least.'
      : calls * seeds.length > mostHourCalls
        ? `That is more than ${mostHourCalls.toLocaleString('en')} calls in all. Ask for fewer calls or fewer runs.`
        : null,
);

const many = whole(0, 1_000_000);
export const hourFigures = object({
  answered: many,
  lost: many,
  /** Seconds waited by those answered; null when nobody was. */
  median: nullable(decimal),
  p90: nullable(decimal),
  /** Shares from 0 to 1: of callers answered within the aim; of each agent's hour without talk and wrap-up. */
  inTime: decimal,
  calls: list(many, 10_000),
  idle: list(decimal, 10_000),
});
export const hoursPlayed = object({
  /** In the order of `calls` and `idle`. */
  people: list(object({ id, name: text(200) }), 10_000),
  runs: list(hourFigures, mostSeeds),
});
export type HoursPlayed = Out<typeof hoursPlayed>;
export type HourAsked = Out<typeof hourAsked>;

/** The busiest hour of the day over the last weeks, and who would take its calls; null where nobody called. */
export const queueMeasured = object({
  days: whole(1, 366),
  hour: nullable(whole(0, 23)),
  calls: nullable(decimal),
  talkSeconds: nullable(decimal),
  patienceSeconds: nullable(decimal),
  ...{ all: many, here: many },
});
export type QueueMeasured = Out<typeof queueMeasured>;
