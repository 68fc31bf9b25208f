/** One of the answers to a question, and the phrases by which it is known. */
export interface Answer {
  /** Of this step: its exit is named by it. */
  readonly id: string;
  readonly name: string;
  readonly phrases: readonly string[];
}

export const mostAnswers = 20;
export const mostPhrases = 40;
export const longestPhrase = 60;

/** Words as they are compared: without marks, signs and capitals. */
export function plainWords(text: string): string[] {
  return text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '');
}

/**
 * Which answer was given: the one with the longest phrase, in words, that stands whole in what was said; of equal ones
 * the first. Null when none does.
 */
export function answerIn(
  said: string,
  answers: readonly Answer[],
): { answer: Answer; phrase: string } | null {
  const words = plainWords(said);
  let best: { answer: Answer; phrase: string; length: number } | null = null;
  for (const answer of answers)
    for (const phrase of answer.phrases) {
      const { length } = plainWords(phrase);
      if (length > (best?.length ?? 0) && stands(plainWords(phrase), words))
        best = { answer, phrase, length };
    }
  return best === null ? null : { answer: best.answer, phrase: best.phrase };
}

function stands(phrase: readonly string[], words: readonly string[]): boolean {
  return words.some((_, at) => phrase.every((word, i) => words[at + i] === word));
}

/** What is wrong with answers, in a sentence; null when nothing is. In a draft they need no phrases yet. */
export function answersFault(label: string, value: unknown, isDraft: boolean): string | null {
  if (!Array.isArray(value) || value.length > mostAnswers) return `${label}: at most ${mostAnswers}`;
  if (value.length === 0 && !isDraft) return `${label}: add one`;
  const ids = new Set<unknown>();
  const taken = new Map<string, string>();
  for (const [index, each] of (value as unknown[]).entries()) {
    const place = `Answer ${index + 1}`;
    if (typeof each !== 'object' || each === null) return `${label}: each has a name and phrases`;
    const { id, name, phrases, ...more } = each as Record<string, unknown>;
    if (typeof id !== 'string' || !/^[a-z0-9]{1,12}$/.test(id) || ids.has(id) || Object.keys(more).length > 0)
      return `${label}: each has a name of its own`;
    ids.add(id);
    if (typeof name !== 'string' || name.length > 60) return `${place}: its name has at most 60 characters`;
    if (!Array.isArray(phrases) || phrases.length > mostPhrases)
      return `${place}: at most ${mostPhrases} phrases`;
    if (phrases.length === 0 && !isDraft) return `${place}: say by which phrases it is known`;
    for (const phrase of phrases as unknown[]) {
      if (typeof phrase !== 'string' || phrase.length > longestPhrase)
        return `${place}: a phrase has at most ${longestPhrase} characters`;
      const plain = plainWords(phrase).join(' ');
      if (plain === '') return `${place}: “${phrase}” has no word in it`;
      const other = taken.get(plain);
      if (other !== undefined && other !== id) return `“${phrase}” stands with two answers: choose one`;
      taken.set(plain, id);
    }
  }
  return null;
}
