import type { ModelId } from '@night-bell/core/phones/catalogue';
import type { Misbehaviour } from '@night-bell/core/devices/protocol';
import type { Role } from '@night-bell/core/model/roles';

/** A row of people.csv. `phone` is enrolled, none yet, or set up with one fault. */
export interface DemoPerson {
  name: string;
  team: string;
  role: Role;
  shift: string;
  /** Model of the catalogue, empty for none. */
  device: ModelId | '';
  phone: 'enrolled' | 'none' | keyof typeof phoneFaults;
  home: '' | 'yes';
  /** Number on which this person is reached instead, E.164. */
  outside: string;
  account: '' | 'yes';
  /** `French 5; Groups 3`. */
  skills: string;
  /** Name of the trunk over which the phone dials out; empty for those of the rules. */
  dialsOver: string;
}

/** What is wrong with phones of the demo that show it. */
export const phoneFaults = {
  'wrong secret': 'wrongSecret',
  'wrong transport': 'wrongTransport',
  'odd codecs': 'oddCodecs',
  'behind router': 'behindRouter',
} as const satisfies Record<string, Misbehaviour>;
