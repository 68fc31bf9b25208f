import { type Pattern, shortest, symbolCount } from './pattern.ts';

/** Who may use a rule, as far as finding one goes. */
export interface Users {
  campaigns: boolean;
  people: boolean;
  /** Of people only those of these teams; none named means all. */
  teamIds: readonly string[];
}

/** Of one of many rules a bit, in the order of their ranks: bit 0 of word 0 is the first that is looked at. */
type Row = Uint32Array;

/**
 * Finds the first of many ranked rules that matches what was dialled and may be used. For every place and symbol a row
 * says which rules admit it there, for every length which rules can have it, for every kind of asker which they may
 * use; the rows are and-ed word by word, and the lowest bit left is the rule. No set of rules is a bad case: 5,000 take
 * 157 words and some 0.4 MB, whatever their patterns have in common.
 */
export class RuleIndex {
  private readonly words: number;
  /** The place from which on every rule has a repetition, or nothing: one row stands for all places behind. */
  private readonly behindAll: number;
  /** By place, then symbol. */
  private readonly admits: Row[][];
  private readonly lengths: Row[];
  private readonly campaigns: Row;
  /** People of no team, or of one that no rule names. */
  private readonly people: Row;
  private readonly teams = new Map<string, Row>();

  constructor(rules: readonly { pattern: Pattern; users: Users }[]) {
    this.words = Math.ceil(rules.length / 32);
    this.behindAll = rules.reduce((most, { pattern }) => Math.max(most, shortest(pattern)), 0);
    const rows = (count: number) => Array.from({ length: count }, () => new Uint32Array(this.words));
    this.admits = Array.from({ length: this.behindAll + 1 }, () => rows(symbolCount));
    this.lengths = rows(this.behindAll + 2);
    [this.campaigns, this.people] = rows(2) as [Row, Row];
    for (const { users } of rules)
      for (const team of users.teamIds) this.teams.set(team, new Uint32Array(this.words));
    rules.forEach(({ pattern, users }, rank) => {
      this.addPattern(pattern, rank);
      this.addUsers(users, rank);
    });
  }

  /** The rank of the first rule that matches all of `places` (see placesOf); -1 when none does. */
  find(
    places: readonly number[],
    asker: { kind: 'campaign' } | { kind: 'person'; teamId: string | null },
  ): number {
    const byLength = this.lengths[Math.min(places.length, this.behindAll + 1)]!;
    const byAsker =
      asker.kind === 'campaign' ? this.campaigns : (this.teams.get(asker.teamId ?? '') ?? this.people);
    const rows = places.map((symbol, place) => this.admits[Math.min(place, this.behindAll)]![symbol]!);
    for (let word = 0; word < this.words; word++) {
      let left = byLength[word]! & byAsker[word]!;
      for (let i = 0; left !== 0 && i < rows.length; i++) left &= rows[i]![word]!;
      // The lowest bit: 31 minus the zeros in front of it.
      if (left !== 0) return word * 32 + 31 - Math.clz32(left & -left);
    }
    return -1;
  }

  private addPattern(pattern: Pattern, rank: number): void {
    const last = pattern.at(-1);
    const repeats = last?.repeats === true;
    const fixed = shortest(pattern);
    for (let place = 0; place <= this.behindAll; place++) {
      const element = place < fixed ? pattern[place] : repeats ? last : undefined;
      for (let left = element?.admits ?? 0; left !== 0; left &= left - 1)
        set(this.admits[place]![31 - Math.clz32(left & -left)]!, rank);
    }
    for (let length = 0; length < this.lengths.length; length++)
      if (repeats ? length >= fixed : length === fixed) set(this.lengths[length]!, rank);
  }

  private addUsers({ campaigns, people, teamIds }: Users, rank: number): void {
    if (campaigns) set(this.campaigns, rank);
    if (!people) return;
    if (teamIds.length === 0) {
      set(this.people, rank);
      for (const row of this.teams.values()) set(row, rank);
    }
    for (const team of teamIds) set(this.teams.get(team)!, rank);
  }
}

function set(row: Row, rank: number): void {
  row[rank >>> 5]! |= 1 << (rank & 31);
}
