import {
  type Configuration,
  type PersonItem,
  type QueueItem,
  defaultSettings,
  directPlan,
} from '../model/configuration.ts';
import type { Effect } from './effects.ts';
import type { ExchangeEventBody } from './events.ts';
import { Exchange, type Handled } from './exchange.ts';
import type { Detail, StoryRecord, StoryRecordKind } from './records.ts';

/** Builders for tests: a person `p1` has phone `p1.phone`, extension 2001 and voicemail box `p1.box`. */
export function person(id: string, change: Partial<PersonItem> = {}): PersonItem {
  return {
    id,
    name: `Person ${id}`,
    extension: null,
    callLimit: 1,
    ringSeconds: 20,
    signInWithPhone: true,
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
    maxWaiting: null,
    whenFull: { kind: 'end' },
    maxWaitSeconds: null,
    whenTooLong: { kind: 'end' },
    whenNobody: null,
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
    phones: people.map((each) => ({ id: `${each.id}.phone`, personId: each.id, account: each.id })),
    queues,
    numbers: [
      ...queues.map((each, index) => ({
        id: `n${index}`,
        e164: index === 0 ? mainNumber : `+120655501${50 + index}`,
        label: each.name,
        plan: directPlan(`n${index}`, 1, { kind: 'queue', id: each.id }),
      })),
      ...(people[0] === undefined
        ? []
        : [
            {
              id: 'nd',
              e164: directNumber,
              label: 'Direct',
              plan: directPlan('nd', 1, { kind: 'person', id: people[0].id }),
            },
          ]),
      { id: 'nu', e164: unroutedNumber, label: 'Nowhere', plan: null },
    ],
    voicemailBoxes: people.map((each) => ({
      id: `${each.id}.box`,
      name: `${each.name}'s voicemail`,
      greetingSeconds: 5,
      maxMessageSeconds: 180,
    })),
  };
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

  call(seconds: number, to = mainNumber, priority = 0): string {
    const callId = `c${++this.calls}`;
    this.at(seconds, { kind: 'callArrived', callId, to, from: callerNumber, priority });
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

  ended() {
    return this.effectsOf('callEnded').map((effect) => effect.facts);
  }
}
