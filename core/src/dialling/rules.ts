import { isEmergency } from './emergency.ts';
import { bySpecificity, matches, type Pattern, placesOf, readPattern } from './pattern.ts';
import { RuleIndex } from './rule-index.ts';

/** What was dialled -> trunk and the digits sent. */
export interface DiallingRule {
  id: string;
  name: string;
  /** As typed; see readPattern. */
  pattern: string;
  /** How many of the first symbols are left out, and what is put in front of the rest. */
  strip: number;
  prepend: string;
  /** Trunks by id, tried one after the other. */
  trunkIds: string[];
  /** Who may use it. */
  use: 'everybody' | 'people' | 'campaigns';
  /** Of people only those of these teams; none named means all. */
  teamIds: string[];
}

/** On whose behalf something is dialled. */
export type Asker = { kind: 'campaign' } | { kind: 'person'; teamId: string | null };

export type DialDecision =
  | { kind: 'emergency'; digits: string }
  | { kind: 'rule'; rule: DiallingRule; digits: string }
  /** There are no rules at all: what was dialled goes out as it is. */
  | { kind: 'noRules'; digits: string }
  | { kind: 'noMatch' }
  | { kind: 'notDialable' };

interface Ready {
  rule: DiallingRule;
  pattern: Pattern;
  order: number;
}

/** Rules ready to decide: ranked once, most specific first. The first that matches and may be used is the one. */
export class DialPlan {
  readonly rules: readonly DiallingRule[];
  private readonly ready: Ready[];
  private readonly index: RuleIndex;

  /** Rules whose pattern cannot be read are left out; they are refused where they are edited. */
  constructor(rules: readonly DiallingRule[]) {
    this.rules = rules;
    this.ready = rules
      .flatMap((rule, order): Ready[] => {
        const reading = readPattern(rule.pattern);
        return reading.ok ? [{ rule, pattern: reading.pattern, order }] : [];
      })
      .sort((one, other) => bySpecificity(one.pattern, other.pattern) || one.order - other.order);
    this.index = new RuleIndex(
      this.ready.map(({ rule: { use, teamIds }, pattern }) => ({
        pattern,
        users: { campaigns: use !== 'people', people: use !== 'campaigns', teamIds },
      })),
    );
  }

  decide(dialled: string, asker: Asker): DialDecision {
    if (isEmergency(dialled)) return { kind: 'emergency', digits: dialled };
    const places = placesOf(dialled);
    if (places === null || places.length === 0) return { kind: 'notDialable' };
    if (this.rules.length === 0) return { kind: 'noRules', digits: dialled };
    const found = this.ready[this.index.find(places, asker)];
    return found === undefined
      ? { kind: 'noMatch' }
      : { kind: 'rule', rule: found.rule, digits: digitsSent(found.rule, dialled) };
  }

  /** Every rule with the reason why it is or is not the one, most specific first. */
  explain(dialled: string, asker: Asker): { rule: DiallingRule; why: RuleVerdict }[] {
    const places = placesOf(dialled);
    let won = isEmergency(dialled);
    return this.ready.map(({ rule, pattern }) => {
      if (places === null || !matches(pattern, places)) return { rule, why: 'noMatch' };
      if (!mayUse(rule, asker)) return { rule, why: 'notForThem' };
      if (won) return { rule, why: isEmergency(dialled) ? 'emergency' : 'lessSpecific' };
      won = true;
      return { rule, why: 'wins' };
    });
  }

  /** In the order in which they are looked at. */
  patterns(): { rule: DiallingRule; pattern: Pattern }[] {
    return this.ready;
  }
}

export type RuleVerdict = 'wins' | 'lessSpecific' | 'noMatch' | 'notForThem' | 'emergency';

export function mayUse(rule: DiallingRule, asker: Asker): boolean {
  if (asker.kind === 'campaign') return rule.use !== 'people';
  if (rule.use === 'campaigns') return false;
  return rule.teamIds.length === 0 || (asker.teamId !== null && rule.teamIds.includes(asker.teamId));
}

/** Number sent = prepend + dialled without its first `strip` symbols. */
export function digitsSent({ strip, prepend }: DiallingRule, dialled: string): string {
  return prepend + dialled.slice(strip);
}
