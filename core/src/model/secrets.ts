/**
 * Whether a secret that somebody brought is easily guessed: short, of one kind of character, a few characters repeated,
 * or the account's own name. What is made here is never weak.
 */
export function isWeakSecret(secret: string, account: string): boolean {
  if (secret.length < 12) return true;
  if (new Set(secret).size < 6) return true;
  if (/^\d+$/.test(secret)) return true;
  const plain = secret.toLowerCase();
  return account.length > 2 && plain.includes(account.toLowerCase());
}
