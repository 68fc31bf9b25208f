/** Words by which somebody revokes consent in a reply: 47 CFR 64.1200(a)(10). */
const stopWords = new Set(['stop', 'quit', 'end', 'revoke', 'opt out', 'cancel', 'unsubscribe']);

/** Whether this text asks for no more calls and texts: one of the words alone, in any case, with any punctuation. */
export function asksToStop(body: string): boolean {
  const words = body
    .toLowerCase()
    .replace(/[^a-z]+/g, ' ')
    .trim();
  return stopWords.has(words);
}
