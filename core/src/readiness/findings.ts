import type { PhoneFacts, Presence } from '../distribute/eligibility.ts';
import type { Destination } from '../model/destination.ts';

/** What readiness looks at: the set-up, and where needed how it stands right now. */
export interface ReadinessInput {
  people: { id: string; name: string; takesCalls: boolean; presence: Presence; phone: PhoneFacts }[];
  queues: {
    id: string;
    name: string;
    peopleCount: number;
    signedIn: number;
    waiting: number;
    maxWaitSeconds: number | null;
    whenNobody: Destination | null;
  }[];
  numbers: {
    id: string;
    e164: string;
    label: string;
    destination: Destination | null;
    destinationRetired: boolean;
  }[];
}

export type FindingCode =
  | 'phoneRefused'
  | 'signedInWithoutPhone'
  | 'queueWithoutMembers'
  | 'queueWithoutEnd'
  | 'callersWaitNobodyThere'
  | 'numberUnrouted'
  | 'destinationRetired'
  | 'noPeople'
  | 'noQueues'
  | 'noNumbers';

/** Something wrong (`fault`) or not there yet (`missing`), with the item where it is mended. */
export interface Finding {
  code: FindingCode;
  area: 'people' | 'queues' | 'numbers';
  severity: 'fault' | 'missing';
  itemId: string | null;
  itemName: string;
  /** Refusal reason, digits or the like, where the sentence needs it. */
  detail: string;
}

/** Every finding over the set-up, faults first, then by area and name. */
export function findings(input: ReadinessInput): Finding[] {
  const found = [...peopleFindings(input), ...queueFindings(input), ...numberFindings(input)];
  const rank = (finding: Finding) => (finding.severity === 'fault' ? 0 : 1);
  return found.sort(
    (one, other) =>
      rank(one) - rank(other) ||
      one.area.localeCompare(other.area) ||
      one.itemName.localeCompare(other.itemName),
  );
}

function peopleFindings({ people }: ReadinessInput): Finding[] {
  if (!people.some((person) => person.takesCalls)) {
    return [
      { code: 'noPeople', area: 'people', severity: 'missing', itemId: null, itemName: '', detail: '' },
    ];
  }
  return people.flatMap((person): Finding[] => {
    const item = { area: 'people', itemId: person.id, itemName: person.name } as const;
    if (person.phone.state === 'refused') {
      return [{ code: 'phoneRefused', severity: 'fault', detail: person.phone.why, ...item }];
    }
    if (person.presence !== 'signedOut' && person.phone.state !== 'registered') {
      return [{ code: 'signedInWithoutPhone', severity: 'fault', detail: '', ...item }];
    }
    return [];
  });
}

function queueFindings({ queues }: ReadinessInput): Finding[] {
  if (queues.length === 0) {
    return [
      { code: 'noQueues', area: 'queues', severity: 'missing', itemId: null, itemName: '', detail: '' },
    ];
  }
  return queues.flatMap((queue): Finding[] => {
    const item = { area: 'queues', itemId: queue.id, itemName: queue.name, detail: '' } as const;
    if (queue.waiting > 0 && queue.signedIn === 0) {
      return [{ code: 'callersWaitNobodyThere', severity: 'fault', ...item, detail: String(queue.waiting) }];
    }
    if (queue.peopleCount === 0) return [{ code: 'queueWithoutMembers', severity: 'missing', ...item }];
    if (queue.maxWaitSeconds === null && queue.whenNobody === null) {
      return [{ code: 'queueWithoutEnd', severity: 'missing', ...item }];
    }
    return [];
  });
}

function numberFindings({ numbers }: ReadinessInput): Finding[] {
  if (numbers.length === 0) {
    return [
      { code: 'noNumbers', area: 'numbers', severity: 'missing', itemId: null, itemName: '', detail: '' },
    ];
  }
  return numbers.flatMap((number): Finding[] => {
    const item = { area: 'numbers', itemId: number.id, itemName: number.label, detail: number.e164 } as const;
    if (number.destinationRetired) return [{ code: 'destinationRetired', severity: 'fault', ...item }];
    return number.destination === null ? [{ code: 'numberUnrouted', severity: 'missing', ...item }] : [];
  });
}
