import type { DistributionKind } from '../model/distribution.ts';
import type { EligibleIndex } from './distribution.ts';

/** Why an agent was chosen, or that nobody could be. */
export type ChosenBecause =
  | ('onlyOne' | 'earlierTurn' | DistributionKind | 'triedAllOthers')
  | ('recordOwner' | 'reservedForThis' | 'nobodyEligible');

type Chooseable = { readonly personId: string; readonly turn: number };

/** Who is asked for. */
export interface Wanted<M extends Chooseable> {
  /** Comes before everybody else, when they can take it and were not tried: the record's owner, or who was reserved. */
  first?: { member: M; because: 'recordOwner' | 'reservedForThis' } | null;
  /** Who was tried for this call already. */
  tried: readonly string[];
  /** Whether an eligible member can take this call: a contact's needs a phone that answers by itself. */
  fits(member: M): boolean;
  /** The stage of the caller's wait: who may be rung only later is not among the eligible yet. */
  stage: number;
  /** How many of the eligible fit. */
  fitting: number;
  /** What the order means, when there is more than one. */
  because: DistributionKind;
  /** Whether the queue has more turns than one. */
  inTurns: boolean;
}

/**
 * The only way by which somebody is chosen for a call. Among the eligible, who stand in the order of their turns and of
 * the distribution within each: who comes first by their own right; then, of the first turn that has somebody who fits,
 * who was not tried yet; and when everybody of it was, its first again. Null when nobody fits. Reads, never changes
 * (docs/definitions.md, "Choice").
 */
export function decide<M extends Chooseable>(
  eligible: Pick<EligibleIndex<M>, 'peek' | 'inOrder'>,
  wanted: Wanted<M>,
): { member: M; why: ChosenBecause } | null {
  const { first = null } = wanted;
  if (first !== null && wanted.fits(first.member) && !wanted.tried.includes(first.member.personId))
    return { member: first.member, why: first.because };
  if (!wanted.inTurns) {
    // Mostly the first will do.
    const next = eligible.peek(wanted.stage);
    if (next === undefined) return null;
    if (wanted.fits(next) && !wanted.tried.includes(next.personId))
      return { member: next, why: wanted.fitting === 1 ? 'onlyOne' : wanted.because };
  }
  let chosen: M | null = null;
  let again: M | null = null;
  for (const member of eligible.inOrder(wanted.stage)) {
    const turn = (chosen ?? again)?.turn ?? member.turn;
    if (member.turn !== turn) break;
    if (!wanted.fits(member)) continue;
    if (wanted.tried.includes(member.personId)) again ??= member;
    // Another who might have been: the order between the two decided.
    else if (chosen !== null) return { member: chosen, why: wanted.because };
    else if (wanted.inTurns) chosen = member;
    else return { member, why: wanted.fitting === 1 ? 'onlyOne' : wanted.because };
  }
  if (chosen !== null) return { member: chosen, why: alone(wanted, again !== null) };
  return again === null ? null : { member: again, why: 'triedAllOthers' };
}

/** Why the only one of a turn who was not tried yet is chosen. */
function alone({ fitting, because }: Pick<Wanted<never>, 'fitting' | 'because'>, beforeTried: boolean) {
  if (fitting === 1) return 'onlyOne';
  return beforeTried ? because : 'earlierTurn';
}
