import type { StepContext } from '../../plan/step-kind.ts';
import type { PromptItem } from '../../model/configuration.ts';
import { mostFacts } from '../../model/bots.ts';
import type { LeftWish } from '../../model/left-wish.ts';
import { spokenSeconds } from '../../plan/spoken.ts';
import { wishWhenLeft } from '../calls/caller-left.ts';
import type { DoneWithMessage } from '../../model/voicemail-menu.ts';
import type { MayPause } from '../../model/recording.ts';
import type { RecordFacts } from '../../story/facts.ts';
import { stepBehind } from '../../plan/graph.ts';
import type { StepRecord } from '../../story/records.ts';
import { setGroupPresence } from '../groups/members.ts';
import { askedByKey } from '../outbound/opt-out.ts';
import { effect, isTold, note, play } from '../kernel/journal.ts';
import { isPin } from '../media/box-lock.ts';
import { recordForQueue } from '../media/recording.ts';
import { StepSight } from './step-sight.ts';

/** What a step of this call sees and may do. */
export class CallStepContext extends StepSight implements StepContext {
  speakIn(language: string): void {
    this.call.language = language;
  }

  takePart(groupId: string, personId: string, takesPart: boolean): void {
    setGroupPresence(this.state, groupId, personId, takesPart);
  }

  storm(hoursIds: readonly string[], until: number | null, personId: string): void {
    effect(this.state, { kind: 'storm', callId: this.call.id, hoursIds, until, personId });
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

  play(prompt: 'enterPin' | 'boxFull'): void {
    play(this.state, this.call, this.call.legs[0]!.id, prompt);
  }

  note(record: StepRecord): void {
    if (isTold(this.state)) note(this.state, { callId: this.call.id, at: this.state.now, ...record });
  }
}
