/**
 * What is wrong with a password of one's own, as a sentence; null when nothing is. Long rather than odd, none that
 * others try first, none that follows from the login (NIST SP 800-63B, 5.1.1.2). The length is checked with the form.
 */
export function passwordFault(
  password: string,
  login: string,
  isCommon: (password: string) => boolean,
): string | null {
  const plain = password.trim().toLowerCase();
  const letters = new Set(plain.replace(/\s/g, ''));
  if (letters.size < fewestLetters)
    return 'This is the same few letters over and over. Take a few words in a row.';
  if (repeatsItself(plain)) return 'This repeats itself. Take a few words in a row.';
  if (login !== '' && plain.replaceAll(login.toLowerCase(), '').length < 4)
    return 'Your login is no password. Take a few words in a row.';
  if (isCommon(plain) || isCommon(plain.replace(/[\d\s!?.*#]+$/, '')))
    return 'This password is among those everybody tries first. Take a few words in a row.';
  return null;
}

const fewestLetters = 4;

/** Whether it is a short piece, up to a third of it, again and again. */
function repeatsItself(text: string): boolean {
  for (let length = 1; length <= Math.floor(text.length / 3); length++) {
    const piece = text.slice(0, length);
    if (piece.repeat(Math.ceil(text.length / length)).startsWith(text)) return true;
  }
  return false;
}
