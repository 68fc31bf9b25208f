import type { Candidate } from '../distribute/candidates.ts';
import type { DistributionKind } from '../model/distribution.ts';
import { span } from './span.ts';
import type { Of } from './step.ts';

const rules: Record<DistributionKind, string> = {
  longestIdle: 'longest idle first',
  roundRobin: 'in a round, behind the last who answered',
  inOrder: 'in the order of the list',
  allAtOnce: 'everybody at once',
  random: 'at random',
  fewestCalls: 'fewest calls of today first',
  bestSkill: 'best skill first',
};

/** By what rule those who are free stand in line. Decisions of before knew but one. */
export function distributionRule({ distribution = 'longestIdle', inTurns }: Of<'decision'>): string {
  return `${inTurns === true ? 'by turns, ' : ''}${rules[distribution]}`;
}

/** What of a candidate decides their place in line. */
export function standingOf(candidate: Candidate, decision: Of<'decision'>): string {
  const { skills = [], distribution, inTurns } = decision;
  const parts: string[] = [];
  if (inTurns === true) parts.push(`Turn ${candidate.turn ?? 1}`);
  if (distribution === 'fewestCalls') parts.push(`${candidate.answeredToday ?? 0} calls today`);
  skills.forEach((name, i) => parts.push(`${name} ${candidate.levels?.[i] ?? 0}`));
  if (candidate.idleSince > 0) parts.push(`idle ${span(decision.at - candidate.idleSince)}`);
  const text = parts.join(', ');
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}
