/** What a person may open. An auditor reads everything and changes nothing. */
export type Role = 'administrator' | 'supervisor' | 'agent' | 'auditor';

export const roles: readonly Role[] = ['administrator', 'supervisor', 'agent', 'auditor'];

/** Who may see the set-up, the calls and the floor. */
export const readers: readonly Role[] = ['administrator', 'supervisor', 'auditor'];

/** Who may change the set-up. */
export const editors: readonly Role[] = ['administrator'];

/** Who may move agents on the floor and try calls. */
export const operators: readonly Role[] = ['administrator', 'supervisor'];
