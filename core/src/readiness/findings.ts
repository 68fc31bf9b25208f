import type { PhoneFacts, Presence } from '../distribute/eligibility.ts';
import { answeringFindings, type AnsweringInput } from './answering.ts';
import type { Finding, FindingCode } from './finding.ts';
import type { Destination } from '../model/destination.ts';

/** What readiness looks at: the set-up, and where needed how it stands right now. */
export interface ReadinessInput extends AnsweringInput {
  people: { id: string; name: string; takesCalls: boolean; presence: Presence; phone: PhoneFacts }[];
  queues: {
    id: string;
    name: string;
    peopleCount: number;
    signedIn: number;
    waiting: number;
    maxWaitSeconds: number | null;
    whenNobody: Destination | null;
    /** Skills that keep every member from ever being rung; none when somebody fits in the end. */
    lacking: readonly string[];
  }[];
  /** Ring groups in use: phones that could ring one day, theirs or outside, and whether all their people sit out. */
  ringGroups: { id: string; name: string; phones: number; allSitOut: boolean }[];
  numbers: {
    id: string;
    e164: string;
    label: string;
    destination: Destination | null;
    destinationRetired: boolean;
    reports: number;
  }[];
  trunks: {
    id: string;
    name: string;
    host: string;
    reached: boolean;
    /** Why it is not registered, in words; empty when it is, or need not be. */
    fault: string;
    secretWeak: boolean;
    secretShared: boolean;
    /** Days its certificate is still good; null when it has none or needs none. */
    certificateDays: number | null;
  }[];
  /** Doubtful dialling rules, with what is doubtful. */
  rules: { id: string; name: string; doubt: 'shadowed' | 'overlap' | 'catchAll' | 'emergency' }[];
  /** Phones in use that register, of people in use. */
  phones: {
    personId: string;
    personName: string;
    hasEmergencyAddress: boolean;
    hasCallerId: boolean;
    secretShared: boolean;
  }[];
  seats: { rented: number | null; used: number };
  balance: { now: string; isLow: boolean };
  campaigns: {
    id: string;
    name: string;
    status: 'draft' | 'running' | 'paused' | 'finished';
    hasQueue: boolean;
    hasTrunk: boolean;
    hasCallerId: boolean;
    contacts: number;
    /** Abandoned of those who answered, today or over 30 days, whichever is more; and the limit. */
    abandonRate: number;
    abandonLimit: number;
    /** Agents signed in to its queue whose phone answers by itself. */
    agents: number;
  }[];
  connections: { id: string; name: string; fault: string | null; waiting: number }[];
  /** Call sources in use, with how many numbers carry each. */
  sources: { id: string; name: string; numbers: number }[];
  /** What the exchange could not take and nobody has looked at, with the kind of the latest. */
  setAside: { count: number; kind: string };
}

/** Every finding over the set-up, faults first, then by area and name. */
export function findings(input: ReadinessInput): Finding[] {
  const found = [
    ...setAsideFindings(input),
    ...peopleFindings(input),
    ...trunkFindings(input),
    ...ruleFindings(input),
    ...phoneFindings(input),
    ...seatFindings(input),
    ...balanceFindings(input),
    ...queueFindings(input),
    ...groupFindings(input),
    ...numberFindings(input),
    ...recordFindings(input),
    ...sourceFindings(input),
    ...campaignFindings(input),
    ...answeringFindings(input),
  ];
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
    if (person.phone.state === 'outside') {
      return person.phone.line === 'trunkGone'
        ? [{ code: 'outsideTrunkGone', severity: 'fault', detail: '', ...item }]
        : [];
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
    if (queue.lacking.length > 0)
      return [{ code: 'queueNobodyFits', severity: 'fault', ...item, detail: queue.lacking.join(', ') }];
    if (queue.maxWaitSeconds === null && queue.whenNobody === null) {
      return [{ code: 'queueWithoutEnd', severity: 'missing', ...item }];
    }
    return [];
  });
}

function groupFindings({ ringGroups }: ReadinessInput): Finding[] {
  return ringGroups.flatMap(({ id, name, phones, allSitOut }): Finding[] => {
    const item = { area: 'queues', itemId: id, itemName: name, detail: '' } as const;
    if (phones === 0) return [{ code: 'groupRingsNobody', severity: 'fault', ...item }];
    return allSitOut ? [{ code: 'groupAllSitOut', severity: 'missing', ...item }] : [];
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
    return [
      ...(number.destination === null
        ? [{ code: 'numberUnrouted' as const, severity: 'missing' as const, ...item }]
        : []),
      ...(number.reports > 0
        ? [{ code: 'numberReported' as const, severity: 'missing' as const, ...item }]
        : []),
    ];
  });
}

function trunkFindings({ trunks, campaigns }: ReadinessInput): Finding[] {
  if (trunks.length === 0) {
    // Without campaigns and outside numbers nobody needs a line out.
    return campaigns.length === 0
      ? []
      : [{ code: 'noTrunks', area: 'trunks', severity: 'missing', itemId: null, itemName: '', detail: '' }];
  }
  return trunks.flatMap((trunk): Finding[] => {
    const item = { area: 'trunks', itemId: trunk.id, itemName: trunk.name } as const;
    const found: Finding[] = [];
    if (!trunk.reached)
      found.push({ code: 'trunkUnreached', severity: 'fault', detail: trunk.host, ...item });
    else if (trunk.fault !== '')
      found.push({ code: 'trunkRefused', severity: 'fault', detail: trunk.fault, ...item });
    if (trunk.secretWeak) found.push({ code: 'secretWeak', severity: 'fault', detail: '', ...item });
    if (trunk.secretShared) found.push({ code: 'secretShared', severity: 'fault', detail: '', ...item });
    if (trunk.certificateDays !== null && trunk.certificateDays < soonDays)
      found.push({
        code: 'certificateEnds',
        severity: 'fault',
        detail: String(trunk.certificateDays),
        ...item,
      });
    return found;
  });
}

const soonDays = 30;

const ruleCodes = {
  shadowed: 'ruleShadowed',
  overlap: 'ruleOverlap',
  catchAll: 'ruleCatchAll',
  emergency: 'ruleEmergency',
} as const;

function ruleFindings({ rules }: ReadinessInput): Finding[] {
  return rules.map(({ id, name, doubt }) => ({
    code: ruleCodes[doubt],
    area: 'dialling',
    severity: doubt === 'shadowed' || doubt === 'catchAll' ? 'fault' : 'missing',
    itemId: id,
    itemName: name,
    detail: '',
  }));
}

/** One finding a kind, with how many people it is about: a list of hundreds helps nobody. */
function phoneFindings({ phones }: ReadinessInput): Finding[] {
  const about = (
    code: FindingCode,
    those: ReadinessInput['phones'],
    severity: Finding['severity'],
  ): Finding[] => {
    const people = [...new Map(those.map((phone) => [phone.personId, phone.personName]))];
    const [first] = people;
    if (first === undefined) return [];
    return [
      { code, area: 'people', severity, itemId: first[0], itemName: first[1], detail: String(people.length) },
    ];
  };
  return [
    ...about(
      'noEmergencyAddress',
      phones.filter((phone) => !phone.hasEmergencyAddress),
      'fault',
    ),
    ...about(
      'noCallerId',
      phones.filter((phone) => !phone.hasCallerId),
      'missing',
    ),
    ...about(
      'secretShared',
      phones.filter((phone) => phone.secretShared),
      'fault',
    ),
  ];
}

function seatFindings({ seats }: ReadinessInput): Finding[] {
  if (seats.rented === null || seats.used < seats.rented) return [];
  const detail = `${seats.used} of ${seats.rented}`;
  return [{ code: 'seatsTaken', area: 'people', severity: 'missing', itemId: null, itemName: '', detail }];
}

function balanceFindings({ balance: { now, isLow } }: ReadinessInput): Finding[] {
  if (!isLow) return [];
  return [
    { code: 'balanceLow', area: 'numbers', severity: 'fault', itemId: null, itemName: '', detail: now },
  ];
}

function setAsideFindings({ setAside: { count, kind } }: ReadinessInput): Finding[] {
  if (count === 0) return [];
  return [
    {
      code: 'setAside',
      area: 'calls',
      severity: 'fault',
      itemId: null,
      itemName: kind,
      detail: String(count),
    },
  ];
}

function recordFindings({ connections }: ReadinessInput): Finding[] {
  return connections.flatMap(({ id, name, fault }): Finding[] =>
    fault === null
      ? []
      : [
          {
            code: 'recordsAway',
            area: 'records',
            severity: 'fault',
            itemId: id,
            itemName: name,
            detail: fault,
          },
        ],
  );
}

function sourceFindings({ sources }: ReadinessInput): Finding[] {
  return sources.flatMap(({ id, name, numbers }): Finding[] =>
    numbers > 0
      ? []
      : [
          {
            code: 'sourceWithoutNumber',
            area: 'sources',
            severity: 'missing',
            itemId: id,
            itemName: name,
            detail: '',
          },
        ],
  );
}

function campaignFindings({ campaigns }: ReadinessInput): Finding[] {
  return campaigns.flatMap((campaign): Finding[] => {
    const item = { area: 'campaigns', itemId: campaign.id, itemName: campaign.name } as const;
    if (campaign.status === 'running') {
      const found: Finding[] = [];
      if (campaign.agents === 0)
        found.push({ code: 'campaignNobody', severity: 'missing', detail: '', ...item });
      if (campaign.abandonRate > 0 && campaign.abandonRate >= campaign.abandonLimit)
        found.push({
          code: 'campaignAtLimit',
          severity: 'fault',
          detail: `${(campaign.abandonRate * 100).toFixed(1)} %`,
          ...item,
        });
      return found;
    }
    if (campaign.status === 'finished') return [];
    const missing = [
      campaign.hasQueue ? [] : ['queue'],
      campaign.hasTrunk ? [] : ['trunk'],
      campaign.hasCallerId ? [] : ['caller ID'],
      campaign.contacts > 0 ? [] : ['contact list'],
    ].flat();
    return missing.length === 0
      ? []
      : [{ code: 'campaignIncomplete', severity: 'missing', detail: missing.join(', '), ...item }];
  });
}
