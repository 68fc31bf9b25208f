/** About 150 words a minute, as announcements are read out. */
const wordsASecond = 2.5;

/** Seconds in which a voice says `words`; 0 for none. An estimate, for as long as there is no sound of them. */
export function spokenSeconds(words: string): number {
  const count = words.split(/\s+/).filter(Boolean).length;
  return Math.ceil(count / wordsASecond);
}
