import { formatNumber } from '@night-bell/core/numbers/format';
import { roleWords } from '../../kit/words.ts';

/** What the fields of a person are called, and how their values read. */
export const personWords: Record<string, string> = {
  name: 'Name',
  login: 'Login',
  extension: 'Extension',
  role: 'Role',
  teamId: 'Team',
  callLimit: 'Calls at once',
  ringSeconds: 'Rings for',
  signInWithPhone: 'Signs in with the phone',
  home: 'Works at home',
  outsideNumber: 'Outside number',
};

export function showPerson(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (value === null || value === undefined) return 'none';
    if (field === 'teamId') return nameOf(value as string);
    if (field === 'role') return roleWords[value as keyof typeof roleWords];
    if (field === 'outsideNumber') {
      const { e164, trunkId } = value as { e164: string; trunkId: string };
      return `${formatNumber(e164)} over ${nameOf(trunkId)}`;
    }
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return field === 'ringSeconds' ? `${String(value)} s` : String(value);
  };
}
