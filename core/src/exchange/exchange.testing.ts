import type { RingGroupItem } from '../model/ring-group.ts';
import type { DiallingRule } from '../dialling/rules.ts';
import {
  type CampaignItem,
  type Configuration,
  type PersonItem,
  type PhoneItem,
  type QueueItem,
  type TrunkItem,
  defaultSettings,
} from '../model/configuration.ts';
import { noGreetings } from '../voicemail/greeting.ts';
import { planOf } from '../plan/compile.ts';
import { Exchange, type Handled } from './exchange.ts';
import type { Effect } from './kernel/effects.ts';
import type { ExchangeEventBody, LeasedContact } from './kernel/events.ts';
import type { Detail, StoryRecord, StoryRecordKind } from '../story/records.ts';

/** Builders for tests: a person `p1` has phone `p1.phone`, extension 2001 and voicemail box `p1.box`. */
export function person(id: string, change: Partial<PersonItem> = {}): PersonItem {
  return {
    id,
    name: `Person ${id}`,
    teamId: null,
    extension: null,
    callLimit: 1,
    ringSeconds: 20,
    signInWithPhone: true,
    startAway: false,
    answerBySelf: false,
    wrapUpSeconds: null,
    skills: {},
    noAnswer: [],
    voicemailBoxId: `${id}.box`,
    ...change,
  };
}

export function queue(id: string, members: string[], change: Partial<QueueItem> = {}): QueueItem {
  return {
    id,
    name: `Queue ${id}`,
    extension: null,
    priority: 0,
    ringSeconds: 15,
    wrapUpSeconds: 10,
    members,
    skills: [],
    preferOwner: false,
    maxWaiting: null,
    whenFull: { kind: 'end' },
    maxWaitSeconds: null,
    whenTooLong: { kind: 'end' },
    whenNobody: null,
    ...change,
  };
}

/** Nobody in it; who is not reached hears that nobody can take the call. */
export function ringGroup(id: string, change: Partial<RingGroupItem> = {}): RingGroupItem {
  return {
    ...{ id, name: `Porters ${id}`, extension: null, targets: [], order: 'allAtOnce', rounds: 1 },
    ...{ shows: 'groupAndCaller', whenBusy: null, whenUnanswered: { kind: 'end' }, whenOutage: null },
    ...change,
  };
}

export const mainNumber = '+12065550140';
export const directNumber = '+12065550141';
export const unroutedNumber = '+12065550142';
export const callerNumber = '+13605550117';

export function configuration(people: PersonItem[], queues: QueueItem[]): Configuration {
  return {
    settings: defaultSettings,
    people,
    phones: people.map((each) => softphone(each.id)),
    queues,
    numbers: [
      ...queues.map((each, index) => ({
        id: `n${index}`,
        e164: index === 0 ? mainNumber : `+120655501${50 + index}`,
        label: each.name,
        plan: planOf(`n${index}`, 1, { kind: 'queue', id: each.id }),
        sourceId: null,
      })),
      ...(people[0] === undefined
        ? []
        : [
            {
              id: 'nd',
              e164: directNumber,
              label: 'Direct',
              plan: planOf('nd', 1, { kind: 'person', id: people[0].id }),
              sourceId: null,
            },
          ]),
      { id: 'nu', e164: unroutedNumber, label: 'Nowhere', plan: null, sourceId: null },
    ],
    voicemailBoxes: people.map((each) => ({
      id: `${each.id}.box`,
      name: `${each.name}'s voicemail`,
      ...{ extension: null, hoursId: null, greetings: noGreetings, whenFull: null },
      ...{ maxMessageSeconds: 180, mostMessages: 100 },
    })),
    trunks: [trunk(10)],
    campaigns: [],
    outsideNumbers: [],
    rooms: [],
    ringGroups: [],
    faxBoxes: [],
    blocked: [],
    codes: [],
    hours: [],
    prompts: [],
    regions: [],
    bots: [],
    plans: [],
    rules: [],
  };
}

export function trunk(channels: number): TrunkItem {
  return {
    id: 't',
    name: 'Trunk',
    host: 'provider.example',
    account: 'night-bell',
    channels,
    callerId: null,
  };
}

/** The rule by which every full number goes out over trunk `t`. */
export const anythingGoes: DiallingRule = {
  id: 'r',
  name: 'R',
  pattern: '+x.',
  strip: 0,
  prepend: '',
  trunkIds: ['t'],
  use: 'everybody',
  teamIds: [],
};

export function softphone(personId: string): PhoneItem {
  return {
    id: `${personId}.phone`,
    personId,
    kind: 'softphone',
    account: personId,
    home: false,
    e164: null,
    trunkId: null,
    callerId: null,
    dialTrunkId: null,
    emergencyAddress: null,
  };
}

/** Reached over trunk `t` on an outside number: phone `p.outside`. */
export function outsideNumber(personId: string): PhoneItem {
  return {
    id: `${personId}.outside`,
    personId,
    kind: 'outside',
    account: '',
    home: false,
    e164: '+12505550190',
    trunkId: 't',
    callerId: null,
    dialTrunkId: null,
    emergencyAddress: null,
  };
}

/** Running, 2 calls a free agent, over trunk `t`. */
export function campaign(id: string, queueId: string, change: Partial<CampaignItem> = {}): CampaignItem {
  return {
    id,
    name: `Campaign ${id}`,
    running: true,
    queueId,
    trunkId: 't',
    callerId: mainNumber,
    numberId: 'n0',
    ratio: 2,
    mostInAir: null,
    ringSeconds: 20,
    abandonLimit: 0.03,
    messageSeconds: 6,
    optOutKey: '9',
    ...change,
  };
}

/** Contacts `k1`, `k2`, ... whose calls will be `k1.call`, ...; callable until a day has passed. */
export function contacts(count: number, from = 1): LeasedContact[] {
  return Array.from({ length: count }, (_, i) => ({
    contactId: `k${from + i}`,
    callId: `k${from + i}-call`,
    e164: `+1360555${String(1000 + from + i)}`,
    name: `Contact ${from + i}`,
    attempt: 1,
    callableUntil: 86_400_000,
    record: null,
  }));
}

/** Drives an exchange by hand: `at` seconds from the start, sequence numbers by itself. */
export class Bench {
  readonly exchange = new Exchange();
  readonly effects: Effect[] = [];
  readonly records: StoryRecord[] = [];
  private calls = 0;
  private readonly detail: Detail;

  constructor(set: Configuration, detail: Detail = 'full') {
    this.detail = detail;
    this.at(0, { kind: 'configurationChanged', changes: set });
  }

  at(seconds: number, body: ExchangeEventBody): Handled {
    const handled = this.exchange.handle(
      { seq: this.exchange.seq + 1, at: seconds * 1000, ...body },
      this.detail,
    );
    this.effects.push(...handled.effects);
    this.records.push(...handled.records);
    return handled;
  }

  register(seconds: number, ...people: string[]): void {
    for (const id of people)
      this.at(seconds, { kind: 'phoneRegistered', phoneId: `${id}.phone`, address: '192.0.2.1' });
  }

  call(seconds: number, to = mainNumber, priority = 0, from = callerNumber): string {
    const callId = `c${++this.calls}`;
    this.at(seconds, { kind: 'callArrived', callId, to, from, priority });
    return callId;
  }

  /** The effects of one kind so far. */
  effectsOf<Kind extends Effect['kind']>(kind: Kind): Extract<Effect, { kind: Kind }>[] {
    return this.effects.filter((effect): effect is Extract<Effect, { kind: Kind }> => effect.kind === kind);
  }

  recordsOf<Kind extends StoryRecordKind>(kind: Kind): Extract<StoryRecord, { kind: Kind }>[] {
    return this.records.filter(
      (record): record is Extract<StoryRecord, { kind: Kind }> => record.kind === kind,
    );
  }

  /** Who was rung, in order. */
  rung(): string[] {
    return this.effectsOf('ring').map((effect) => effect.personId);
  }

  lastLeg(): string {
    return this.effectsOf('ring').at(-1)!.leg;
  }

  /** Hands `count` contacts to campaign `x`, from `k<from>` on. */
  lease(seconds: number, count: number, from = 1): Handled {
    return this.at(seconds, {
      kind: 'contactsLeased',
      campaignId: 'x',
      contacts: contacts(count, from),
      askAgainAt: null,
    });
  }

  /** Contacts dialled so far, and the leg of the last one. */
  dialled(): string[] {
    return this.effectsOf('dial').flatMap((effect) => (effect.contact === null ? [] : [effect.contact.id]));
  }

  /** Contact `id` lifts, and the greeting ends a second later. */
  lifts(seconds: number, id: string, by: 'person' | 'machine' = 'person'): void {
    this.at(seconds, { kind: 'legAnswered', leg: `${id}-call.1` });
    this.at(seconds + 1, { kind: 'greetingEnded', leg: `${id}-call.1`, by });
  }

  ended() {
    return this.effectsOf('callEnded').map((effect) => effect.facts);
  }
}
