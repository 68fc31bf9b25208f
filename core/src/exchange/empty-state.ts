import { DialPlan } from '../dialling/rules.ts';
import { defaultSettings } from '../model/configuration.ts';
import { IndexedHeap } from './heap.ts';
import type { State, Timer } from './state.ts';
import { timerBefore } from './timers.ts';

/** Before anything has happened. */
export function emptyState(): State {
  return {
    now: 0,
    seq: 0,
    settings: defaultSettings,
    agents: new Map(),
    phones: new Map(),
    queues: new Map(),
    numbers: new Map(),
    numberByDigits: new Map(),
    extensions: new Map(),
    boxes: new Map(),
    calls: new Map(),
    trunks: new Map(),
    outsideNumbers: new Map(),
    rooms: new Map(),
    faxBoxes: new Map(),
    dialPlan: new DialPlan([]),
    campaigns: new Map(),
    optedOut: new Map(),
    timers: new IndexedHeap<Timer>(timerBefore),
    timerCount: 0,
    signedIn: 0,
    todo: [],
    atHand: null,
    out: { detail: 'none', effects: [], records: [] },
  };
}
