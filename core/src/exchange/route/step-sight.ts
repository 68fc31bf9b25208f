import type { ItemKind } from '../../plan/fields.ts';
import type { StepContext } from '../../plan/step-kind.ts';
import type { RuleFacts } from '../../plan/rules.ts';
import { type OpeningHours, standingAt } from '../../hours/opening-hours.ts';
import { loadOf } from '../queues/load.ts';
import type {
  PromptItem,
  RegionTable,
  RoomItem,
  ServiceCodeItem,
  VoicemailBoxItem,
} from '../../model/configuration.ts';
import { type BotItem } from '../../model/bots.ts';
import type { Call } from '../calls/call.ts';
import type { Destination } from '../../model/destination.ts';
import type { RingGroupItem } from '../../model/ring-group.ts';
import { groupsOf, peopleOfTeam } from '../groups/members.ts';
import { destinationName } from '../kernel/names.ts';
import type { State } from '../kernel/state.ts';
import { isLocked } from '../media/box-lock.ts';
import { promptFor } from '../media/prompt-for.ts';
import { held, whyNoMessage } from '../media/voicemail.ts';

/** What a step of this call sees of the exchange. */
export class StepSight {
  protected readonly state: State;
  protected readonly call: Call;

  constructor(state: State, call: Call) {
    this.state = state;
    this.call = call;
  }

  get now(): number {
    return this.state.now;
  }

  has(kind: ItemKind, id: string): boolean {
    const { state } = this;
    switch (kind) {
      case 'person':
        return state.agents.get(id)?.retired === false;
      case 'queue':
        return state.queues.get(id)?.retired === false;
      case 'voicemail':
        return state.boxes.has(id);
      case 'outside':
        return state.outsideNumbers.has(id);
      case 'room':
        return state.rooms.has(id);
      case 'ringGroup':
        return state.ringGroups.has(id);
      case 'fax':
        return state.faxBoxes.has(id);
      case 'number':
        return state.numbers.get(id)?.plan != null;
      case 'plan':
        return state.plans.has(id);
      case 'team':
        return state.teams.has(id);
      case 'code':
        return state.codes.has(id);
      case 'hours':
        return state.hours.has(id);
      case 'prompt':
        return state.prompts.has(id);
      case 'region':
        return state.regions.has(id);
      case 'bot':
        return state.bots.has(id);
      // Sources stand beside the exchange.
      case 'source':
        return true;
    }
  }

  room(id: string): RoomItem | undefined {
    return this.state.rooms.get(id);
  }

  ringGroup(id: string): RingGroupItem | undefined {
    return this.state.ringGroups.get(id)?.item;
  }

  answeredLast(groupId: string): string | null {
    return this.state.ringGroups.get(groupId)?.lastAnswered ?? null;
  }

  peopleOf(teamId: string): readonly string[] {
    return peopleOfTeam(this.state, teamId).map(({ person }) => person.id);
  }

  groupsOf(personId: string): { id: string; name: string; takesPart: boolean }[] {
    return groupsOf(this.state, personId).map(({ item: { id, name }, sitOut }) => ({
      ...{ id, name, takesPart: !sitOut.includes(personId) },
    }));
  }

  hours(id: string): OpeningHours | undefined {
    return this.state.hours.get(id);
  }

  regions(id: string): RegionTable | undefined {
    return this.state.regions.get(id);
  }

  prompt(id: string): PromptItem | undefined {
    return promptFor(this.state, this.call, id);
  }

  code(id: string): ServiceCodeItem | undefined {
    return this.state.codes.get(id);
  }

  extension(digits: string): Destination | undefined {
    return this.state.extensions.get(digits);
  }

  isBegun(digits: string): boolean {
    for (const extension of this.state.extensions.keys())
      if (extension.length > digits.length && extension.startsWith(digits)) return true;
    return false;
  }

  nameOf(destination: Destination): string {
    return destinationName(this.state, destination);
  }

  nameOfItem(kind: ItemKind, id: string): string {
    const { state } = this;
    switch (kind) {
      case 'hours':
        return state.hours.get(id)?.name ?? 'hours that are gone';
      case 'prompt':
        return state.prompts.get(id)?.name ?? 'a prompt that is gone';
      case 'region':
        return state.regions.get(id)?.name ?? 'a region table that is gone';
      case 'bot':
        return state.bots.get(id)?.name ?? 'a bot that is gone';
      case 'code':
        return state.codes.get(id)?.name ?? 'a code that is gone';
      // What the exchange does not know by name.
      case 'team':
        return 'a team';
      case 'source':
        return 'this source';
      default:
        return destinationName(state, { kind, id });
    }
  }

  facts(): RuleFacts {
    const { state, call } = this;
    return {
      ...{ from: call.from, numberId: call.numberId, sourceId: call.sourceId },
      ...{ language: call.language, record: call.record, keys: call.keys },
      found: call.found,
      queue: (id) => {
        const queue = state.queues.get(id);
        return queue === undefined || queue.retired ? null : loadOf(state, queue);
      },
      hours: (id) => {
        const set = state.hours.get(id);
        return set === undefined ? null : standingAt(set, state.now).state;
      },
    };
  }

  get called(): string {
    return this.call.to;
  }

  isOptedOut(): boolean {
    return this.state.optedOut.has(this.call.from);
  }

  box(id: string): VoicemailBoxItem | undefined {
    return this.state.boxes.get(id);
  }

  ownBox(): string | null {
    const { state, call } = this;
    const phone = [...state.phones.values()].find(
      ({ item }) => item.account !== '' && item.account === call.from,
    );
    const owner = state.agents.get(phone?.item.personId ?? '');
    return owner?.person.voicemailBoxId ?? this.boxOf(call.from);
  }

  boxOf(extension: string): string | null {
    const { state } = this;
    const to = state.extensions.get(extension);
    if (to?.kind === 'voicemail') return to.id;
    return to?.kind === 'person' ? (state.agents.get(to.id)?.person.voicemailBoxId ?? null) : null;
  }

  pinOf(boxId: string): 'none' | 'asked' | 'locked' {
    if ((this.state.boxes.get(boxId)?.pinHash ?? null) === null) return 'none';
    return isLocked(this.state, boxId) ? 'locked' : 'asked';
  }

  bot(id: string): BotItem | undefined {
    return this.state.bots.get(id);
  }

  noMessage(boxId: string): ReturnType<StepContext['noMessage']> {
    const { state } = this;
    const why = whyNoMessage(state, boxId);
    return why === null
      ? null
      : { why, held: held(state, boxId), whenFull: state.boxes.get(boxId)?.whenFull ?? null };
  }
}
