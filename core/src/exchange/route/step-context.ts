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
import { type BotItem, mostFacts } from '../../model/bots.ts';
import type { LeftWish } from '../../model/left-wish.ts';
import { spokenSeconds } from '../../plan/spoken.ts';
import { wishWhenLeft } from '../calls/caller-left.ts';
import type { DoneWithMessage } from '../../model/voicemail-menu.ts';
import type { MayPause } from '../../model/recording.ts';
import type { RecordFacts } from '../../story/facts.ts';
import { stepBehind } from '../../plan/graph.ts';
import type { StepRecord } from '../../story/records.ts';
import type { Call } from '../calls/call.ts';
import type { Destination } from '../../model/destination.ts';
import { destinationName } from '../kernel/names.ts';
import { askedByKey } from '../outbound/opt-out.ts';
import { effect, isTold, note, play } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { isLocked, isPin } from '../media/box-lock.ts';
import { recordForQueue } from '../media/recording.ts';
import { promptFor } from '../media/prompt-for.ts';
import { held, whyNoMessage } from '../media/voicemail.ts';

/** What a step of this call sees and may do. */
export class CallStepContext implements StepContext {
  private readonly state: State;
  private readonly call: Call;

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
      case 'fax':
        return state.faxBoxes.has(id);
      case 'number':
        return state.numbers.get(id)?.plan != null;
      case 'plan':
        return state.plans.has(id);
      case 'team':
        return [...state.agents.values()].some(({ person, retired }) => !retired && person.teamId === id);
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

  hours(id: string): OpeningHours | undefined {
    return this.state.hours.get(id);
  }

  regions(id: string): RegionTable | undefined {
    return this.state.regions.get(id);
  }

  prompt(id: string): PromptItem | undefined {
    return promptFor(this.state, this.call, id);
  }

  speakIn(language: string): void {
    this.call.language = language;
  }

  code(id: string): ServiceCodeItem | undefined {
    return this.state.codes.get(id);
  }

  storm(hoursIds: readonly string[], until: number | null, personId: string): void {
    effect(this.state, { kind: 'storm', callId: this.call.id, hoursIds, until, personId });
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

  pressed(key: string): void {
    this.call.keys = [...this.call.keys, key];
  }

  whenTalkIsOver(exit: string): void {
    const { call } = this;
    const { plan, stepId } = call.route.at(-1)!;
    const next = stepBehind(plan, stepId, exit);
    call.afterTalk = next === null ? null : { plan, stepId: next, memory: null };
  }

  setRecording({ on, mayPause }: { on: boolean; mayPause: MayPause }): void {
    this.call.recordingWish = { on, by: 'plan', mayPause };
  }

  toldOfRecording(): void {
    this.call.toldOfRecording = true;
  }

  recordForQueue(queueId: string): PromptItem | null {
    return recordForQueue(this.state, this.call, this.state.queues.get(queueId)!.item);
  }

  answered(question: string, answer: number): void {
    const { state, call } = this;
    effect(state, {
      ...{ kind: 'surveyAnswered' as const, callId: call.id, question, answer },
      planId: call.route.at(-1)!.plan.id,
      ...{ queueId: call.lastQueueId, personId: call.transferredBy },
    });
  }

  get called(): string {
    return this.call.to;
  }

  isOptedOut(): boolean {
    return this.state.optedOut.has(this.call.from);
  }

  text({ numberId, body }: { numberId: string; body: string }): void {
    const { call } = this;
    effect(this.state, { kind: 'text', callId: call.id, numberId, to: call.from, body });
  }

  lookUp(asked: { digits: string; field: string; withinSeconds: number }): number {
    const { call } = this;
    call.asks++;
    effect(this.state, { kind: 'lookUp', callId: call.id, asked: call.asks, ...asked });
    return call.asks;
  }

  whenCallerLeft(wish: Omit<LeftWish, 'stepId'>): void {
    wishWhenLeft(this.call, { stepId: this.call.route.at(-1)!.stepId, ...wish });
  }

  speak(words: string, keys: readonly string[] = []): number {
    if (words.trim() === '') return 0;
    const seconds = spokenSeconds(words);
    effect(this.state, { ...this.sayOn(), promptId: null, words, seconds, keys });
    return seconds * 1000;
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

  isPin(boxId: string, pin: string): boolean {
    return isPin(this.state, boxId, pin);
  }

  readBox(boxId: string): number {
    const { call } = this;
    call.asks++;
    effect(this.state, { kind: 'readBox', callId: call.id, asked: call.asks, boxId });
    return call.asks;
  }

  playMessage(messageId: string, seconds: number, keys: readonly string[]): number {
    const { call } = this;
    const leg = call.legs[0]!.id;
    effect(this.state, { kind: 'playMessage', callId: call.id, leg, messageId, seconds, keys });
    return seconds * 1000;
  }

  doneWithMessage(boxId: string, messageId: string, what: DoneWithMessage): void {
    const personId = this.state.boxes.get(boxId)?.personId ?? null;
    effect(this.state, {
      ...{ kind: 'doneWithMessage', callId: this.call.id, boxId, messageId, what, personId },
    });
  }

  recordGreeting(boxId: string, does: 'start' | 'stop'): void {
    const { call } = this;
    const leg = call.legs[0]!.id;
    effect(this.state, { kind: 'recordGreeting', callId: call.id, leg, boxId, does });
  }

  listen(phrases: readonly string[], seconds: number): void {
    const { call } = this;
    effect(this.state, { kind: 'listen', callId: call.id, leg: call.legs[0]!.id, phrases, seconds });
  }

  bot(id: string): BotItem | undefined {
    return this.state.bots.get(id);
  }

  askBot(turn: { botId: string; turn: number; said: string; withinSeconds: number }): number {
    const { call } = this;
    const { language, from, to, found } = call;
    call.asks++;
    effect(this.state, {
      ...{ kind: 'askBot', callId: call.id, asked: call.asks, language, from, to, found, ...turn },
    });
    return call.asks;
  }

  found(facts: Readonly<Record<string, string>>): void {
    const { call } = this;
    call.found = Object.fromEntries(Object.entries({ ...call.found, ...facts }).slice(-mostFacts));
  }

  identify(record: RecordFacts): void {
    this.call.record = record;
  }

  optOut(): void {
    const { state, call } = this;
    if (call.from.startsWith('+')) askedByKey(state, call, call.from);
  }

  say({ id, words, seconds }: PromptItem, keys: readonly string[]): number {
    effect(this.state, { ...this.sayOn(), promptId: id, words, seconds, keys });
    return seconds * 1000;
  }

  private sayOn() {
    return { kind: 'say', callId: this.call.id, leg: this.call.legs[0]!.id } as const;
  }

  noMessage(boxId: string): ReturnType<StepContext['noMessage']> {
    const { state } = this;
    const why = whyNoMessage(state, boxId);
    return why === null
      ? null
      : { why, held: held(state, boxId), whenFull: state.boxes.get(boxId)?.whenFull ?? null };
  }

  play(prompt: 'enterPin' | 'boxFull'): void {
    play(this.state, this.call, this.call.legs[0]!.id, prompt);
  }

  note(record: StepRecord): void {
    if (isTold(this.state)) note(this.state, { callId: this.call.id, at: this.state.now, ...record });
  }
}
