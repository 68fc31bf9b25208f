import type { Role } from '@night-bell/core/model/roles';

/** A row of people.csv. `phone` is enrolled, none yet, or typed with a wrong secret. */
export interface DemoPerson {
  name: string;
  team: string;
  role: Role;
  shift: string;
  phone: 'enrolled' | 'none' | 'wrong secret';
  home: '' | 'yes';
  /** Number on which this person is reached instead, E.164. */
  outside: string;
  account: '' | 'yes';
}
