import { emergencyNumbers } from './emergency.ts';
import { bySpecificity, matches, type Pattern, placesOf, symbolAt, symbolCount } from './pattern.ts';
import { type DialPlan, type DiallingRule, mayUse } from './rules.ts';

export type RuleWarning =
  /** Whatever would reach it goes to more specific rules, one or several together. */
  | { kind: 'shadowed'; ruleId: string; by: string[] }
  /** As specific as another, and both match this: only the order of the list decides. */
  | { kind: 'overlap'; ruleId: string; otherId: string; example: string }
  /** Anything of any length goes out by it. */
  | { kind: 'catchAll'; ruleId: string }
  /** It would rewrite an emergency number, which always goes out as dialled. */
  | { kind: 'emergency'; ruleId: string; digits: string };

/** What is doubtful about a set of rules. Exact; `most` bounds how many of a kind are told of. */
export function ruleWarnings(plan: DialPlan, most = 50): RuleWarning[] {
  const ready = plan.patterns();
  const found: RuleWarning[] = [];
  ready.forEach(({ rule, pattern }, index) => {
    if (found.length >= most) return;
    const meeting = ready.slice(0, index).filter((other) => meet(other.pattern, pattern) !== null);
    const before = meeting.filter((other) => covers(other.rule, rule));
    const hidden =
      before.length > 0 &&
      uncovered(
        pattern,
        before.map((each) => each.pattern),
      ) === null;
    if (hidden) found.push({ kind: 'shadowed', ruleId: rule.id, by: before.map((each) => each.rule.id) });
    for (const other of meeting) {
      const alike = bySpecificity(other.pattern, pattern) === 0 && haveUserInCommon(other.rule, rule);
      if (hidden || !alike) continue;
      const example = meet(other.pattern, pattern)!;
      found.push({ kind: 'overlap', ruleId: rule.id, otherId: other.rule.id, example });
    }
    if (isCatchAll(pattern)) found.push({ kind: 'catchAll', ruleId: rule.id });
    const emergency = emergencyNumbers.find((digits) => matches(pattern, placesOf(digits)!));
    if (emergency !== undefined && (rule.strip > 0 || rule.prepend !== ''))
      found.push({ kind: 'emergency', ruleId: rule.id, digits: emergency });
  });
  return found;
}

/** Whether everybody who may use `other` may use `rule`: only then can it take calls away from it wholly. */
function covers(rule: DiallingRule, other: DiallingRule): boolean {
  const askers = [
    { kind: 'campaign' } as const,
    ...(other.teamIds.length === 0 ? [null, ...rule.teamIds] : other.teamIds).map(
      (teamId) => ({ kind: 'person', teamId }) as const,
    ),
  ];
  return askers.every((asker) => !mayUse(other, asker) || mayUse(rule, asker));
}

function haveUserInCommon(one: DiallingRule, other: DiallingRule): boolean {
  const askers = [
    { kind: 'campaign' } as const,
    ...[null, ...one.teamIds, ...other.teamIds].map((teamId) => ({ kind: 'person', teamId }) as const),
  ];
  return askers.some((asker) => mayUse(one, asker) && mayUse(other, asker));
}

/** Every place admits all digits and the last repeats: whatever digits are dialled go out. */
function isCatchAll(pattern: Pattern): boolean {
  const digits = 0b11_1111_1111;
  return pattern.at(-1)!.repeats && pattern.every(({ admits }) => (admits & digits) === digits);
}

/** A string that both match, or null. */
export function meet(one: Pattern, other: Pattern): string | null {
  const longer = Math.max(one.length, other.length);
  let text = '';
  for (let i = 0; i <= longer; i++) {
    const [a, b] = [place(one, i), place(other, i)];
    const endsA = ends(one, i);
    const endsB = ends(other, i);
    if (endsA && endsB) return text;
    if (a === null || b === null) return null;
    const both = a & b;
    if (both === 0) return null;
    text += symbolAt(31 - Math.clz32(both & -both));
  }
  return null;
}

/** What a pattern admits at a place, its repetition included; null behind its end. */
function place(pattern: Pattern, at: number): number | null {
  const last = pattern.at(-1)!;
  if (at < pattern.length) return pattern[at]!.admits;
  return last.repeats ? last.admits : null;
}

/** Whether a string may end before this place. */
function ends(pattern: Pattern, at: number): boolean {
  return at === pattern.length || (pattern.at(-1)!.repeats && at >= pattern.length - 1);
}

/**
 * A string that `pattern` matches and none of `others` does; null when they leave none over. Walks all strings at once,
 * place by place: what counts is only which of the others still go along, so the walk is over sets of them and each is
 * seen once.
 */
export function uncovered(pattern: Pattern, others: readonly Pattern[]): string | null {
  const seen = new Set<string>();
  return walk(
    0,
    others.map((_, index) => index),
    '',
  );

  function walk(at: number, alive: readonly number[], text: string): string | null {
    // Behind the end of all patterns nothing changes any more.
    const settled = Math.max(pattern.length, ...alive.map((index) => others[index]!.length));
    const key = `${Math.min(at, settled)} ${alive.join()}`;
    if (seen.has(key)) return null;
    seen.add(key);
    if (ends(pattern, at) && !alive.some((index) => ends(others[index]!, at))) return text;
    const admits = place(pattern, at);
    if (admits === null) return null;
    const tried = new Set<string>();
    for (let symbol = 0; symbol < symbolCount; symbol++) {
      const bit = 1 << symbol;
      if ((admits & bit) === 0) continue;
      const still = alive.filter((index) => ((place(others[index]!, at) ?? 0) & bit) !== 0);
      const same = still.join();
      if (tried.has(same)) continue;
      tried.add(same);
      const found = walk(at + 1, still, text + symbolAt(symbol));
      if (found !== null) return found;
    }
    return null;
  }
}
