const mostWords = 8;
const longestWord = 60;

/**
 * The words of a search as lists compare them: lower case, without accents, split at whatever is no letter and no digit;
 * at most eight, each of at most 60 characters. What is searched splits its names in the same way (`searchable` in the
 * database), and each of these must begin one of its words.
 */
export function searchedWords(text: string): string[] {
  const plain = text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();
  return plain
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '')
    .slice(0, mostWords)
    .map((word) => word.slice(0, longestWord));
}
