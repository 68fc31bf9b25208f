import type { NewStep, Of } from './step.ts';
import { span } from './span.ts';

/** What a caller is told while they wait. */
export function announcedStep(record: Of<'announced'>): NewStep {
  const { at, place, waitMs, prompt, words, language, seconds } = record;
  const told = [
    ...(prompt === null ? [] : [prompt.name]),
    ...(place === null ? [] : [place === 1 ? 'next in line' : `number ${place} in line`]),
    ...(waitMs === null ? [] : [`about ${span(waitMs)} more`]),
  ];
  return {
    mark: 'knot',
    at,
    title: told.length === 0 ? 'Nothing to announce' : `Told: ${told.join(', ')}`,
    reason: words === '' && told.length === 0 ? 'The wait cannot be known yet' : words,
    caption: place === null ? 'told' : `no. ${place}`,
    sounds: [
      ...(prompt === null ? [] : [{ promptId: prompt.id, words: prompt.name, language }]),
      ...(words === '' ? [] : [{ promptId: null, words, language }]),
    ],
    ms: seconds * 1_000,
  };
}

/** 'Level 2 of French is enough from 0:40 on'. */
export function easierStep(record: Of<'easierToServe'>): NewStep {
  const { at, afterSeconds, enough, joined, joinedCount, fitting } = record;
  const levels = enough.map(({ skill, minimum }) =>
    minimum === 0 ? `${skill} is no longer asked for` : `${skill} at ${minimum} is enough`,
  );
  const others = joinedCount - joined.length;
  const people =
    joinedCount === 0
      ? []
      : [`${joined.join(', ')}${others > 0 ? ` and ${others} more` : ''} may be rung too`];
  return {
    mark: 'knot',
    at,
    title: `After ${span(afterSeconds * 1_000)} ${[...levels, ...people].join('; ')}`,
    reason: fitting === 0 ? 'Nobody of them is free' : `${fitting} free now`,
    caption: levels.length > 0 ? 'easier' : 'wider',
  };
}
