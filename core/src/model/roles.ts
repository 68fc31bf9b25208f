/** What a person may open. An auditor reads everything and changes nothing. */
export type Role = 'administrator' | 'supervisor' | 'agent' | 'auditor';

export const roles: readonly Role[] = ['administrator', 'supervisor', 'agent', 'auditor'];

/** Who may see the set-up, the calls and the floor. */
export const readers: readonly Role[] = ['administrator', 'supervisor', 'auditor'];

/** Who may change the set-up. */
export const editors: readonly Role[] = ['administrator'];

/**
 * Whether this person may direct people of that team: sign them in or out, set them away. An administrator directs
 * everybody, a supervisor the teams they look after, or everybody when none is named.
 */
export function mayDirect(
  who: { role: Role; looksAfter: readonly string[] },
  teamId: string | null,
): boolean {
  if (who.role === 'administrator') return true;
  if (who.role !== 'supervisor') return false;
  return who.looksAfter.length === 0 || (teamId !== null && who.looksAfter.includes(teamId));
}

/** Who may move agents on the floor and try calls. */
export const operators: readonly Role[] = ['administrator', 'supervisor'];
