import type { DistributionKind, EligibleIndex } from './distribution.ts';

/** Why an agent was chosen, or that nobody could be. */
export type ChosenBecause =
  'onlyOne' | DistributionKind | 'triedAllOthers' | 'recordOwner' | 'reservedForThis' | 'nobodyEligible';

/** Who is asked for. */
export interface Wanted<M extends { readonly personId: string }> {
  /** Comes before everybody else, when they can take it and were not tried: the record's owner, or who was reserved. */
  first?: { member: M; because: 'recordOwner' | 'reservedForThis' } | null;
  /** Who was tried for this call already. */
  tried: readonly string[];
  /** Whether an eligible member can take this call: a contact's needs a phone that answers by itself. */
  fits(member: M): boolean;
  /** How many of the eligible fit. */
  fitting: number;
  /** What the order means, when there is more than one. */
  because: DistributionKind;
}

/**
 * The only way by which somebody is chosen for a call. Among the eligible, in the order of their distribution: who comes
 * first by their own right; then who was not tried yet; and when everybody was, the first of all again. Null when nobody
 * fits. Reads, never changes (docs/definitions.md, "Choice").
 */
export function decide<M extends { readonly personId: string }>(
  eligible: Pick<EligibleIndex<M>, 'peek' | 'inOrder'>,
  wanted: Wanted<M>,
): { member: M; why: ChosenBecause } | null {
  const { first = null } = wanted;
  if (first !== null && wanted.fits(first.member) && !wanted.tried.includes(first.member.personId))
    return { member: first.member, why: first.because };
  // Mostly the first will do.
  const next = eligible.peek();
  if (next === undefined) return null;
  if (wanted.fits(next) && !wanted.tried.includes(next.personId))
    return { member: next, why: firstOf(wanted) };
  let again: M | null = null;
  for (const member of eligible.inOrder()) {
    if (!wanted.fits(member)) continue;
    if (!wanted.tried.includes(member.personId)) return { member, why: firstOf(wanted) };
    again ??= member;
  }
  return again === null ? null : { member: again, why: 'triedAllOthers' };
}

function firstOf({ fitting, because }: Pick<Wanted<never>, 'fitting' | 'because'>): ChosenBecause {
  return fitting === 1 ? 'onlyOne' : because;
}
