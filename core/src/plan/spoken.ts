/** About 150 words a minute, as announcements are read out. */
const wordsASecond = 2.5;

/** Seconds in which a voice says `words`; 0 for none. An estimate, for as long as there is no sound of them. */
export function spokenSeconds(words: string): number {
  const count = words.split(/\s+/).filter(Boolean).length;
  return Math.ceil(count / wordsASecond);
}

/** As a voice says them: 'Bookings, Freight and Terminal'. */
export function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`;
}
