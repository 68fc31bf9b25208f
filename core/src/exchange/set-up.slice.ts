import { BlockedList } from '../blocking/blocked.ts';
import { DialPlan } from '../dialling/rules.ts';
import type { Configuration } from '../model/configuration.ts';
import { deriveRoutes } from './configuration.ts';
import type { Slice } from './kernel/slice.ts';
import type { State } from './kernel/state.ts';
import { isForHelp } from './calls/resting.ts';
import { Trunk } from './media/trunk.ts';
import { carryBox } from './upgrade-9.ts';

export type Data = Pick<
  Configuration,
  | 'settings'
  | 'numbers'
  | 'voicemailBoxes'
  | 'trunks'
  | 'outsideNumbers'
  | 'rooms'
  | 'faxBoxes'
  | 'codes'
  | 'blocked'
  | 'hours'
  | 'prompts'
  | 'regions'
  | 'bots'
  | 'plans'
> & { rules: readonly Configuration['rules'][number][]; helpAskedAt: number | null };

/** What of the set-up is no agent, queue or campaign: items are data, and kept as they came. */
export const setUpSlice: Slice<Data> = {
  name: 'setUp',
  version: 6,
  migrate: {
    1: (data: Data) => ({ ...data, hours: [], prompts: [], plans: [] }),
    2: (data: Data) => ({ ...data, voicemailBoxes: data.voicemailBoxes.map(carryBox) }),
    3: (data: Data) => ({ ...data, blocked: [], helpAskedAt: null, codes: [] }),
    4: (data: Data) => ({ ...data, regions: [] }),
    5: (data: Data) => ({ ...data, bots: [] }),
  },
  save: (state) => ({
    settings: state.settings,
    numbers: [...state.numbers.values()],
    voicemailBoxes: [...state.boxes.values()],
    trunks: [...state.trunks.values()].map((trunk) => trunk.item),
    outsideNumbers: [...state.outsideNumbers.values()],
    rooms: [...state.rooms.values()],
    faxBoxes: [...state.faxBoxes.values()],
    codes: [...state.codes.values()],
    hours: [...state.hours.values()],
    prompts: [...state.prompts.values()],
    regions: [...state.regions.values()],
    bots: [...state.bots.values()],
    plans: [...state.plans.values()],
    blocked: [...state.blocked.items],
    helpAskedAt: state.helpAskedAt,
    rules: state.dialPlan.rules,
  }),
  make: (data, state) => {
    state.settings = data.settings;
    for (const number of data.numbers) state.numbers.set(number.id, number);
    for (const box of data.voicemailBoxes) state.boxes.set(box.id, box);
    for (const trunk of data.trunks) state.trunks.set(trunk.id, new Trunk(trunk));
    for (const outside of data.outsideNumbers) state.outsideNumbers.set(outside.id, outside);
    for (const room of data.rooms) state.rooms.set(room.id, room);
    for (const box of data.faxBoxes) state.faxBoxes.set(box.id, box);
    for (const code of data.codes) state.codes.set(code.id, code);
    for (const set of data.hours) state.hours.set(set.id, set);
    for (const prompt of data.prompts) state.prompts.set(prompt.id, prompt);
    for (const table of data.regions) state.regions.set(table.id, table);
    for (const bot of data.bots) state.bots.set(bot.id, bot);
    for (const plan of data.plans) state.plans.set(plan.id, plan);
    state.dialPlan = new DialPlan(data.rules);
    state.blocked = new BlockedList(data.blocked);
    state.helpAskedAt = data.helpAskedAt;
  },
  fill: () => undefined,
  derive: deriveRoutes,
  invariants: (state) => [...state.trunks.values()].flatMap((trunk) => brokenTrunk(state, trunk)),
};

function brokenTrunk(state: Readonly<State>, trunk: Trunk): string[] {
  const { name, id, channels } = trunk.item;
  const calls = [...state.calls.values()];
  const used = calls.flatMap((call) => call.legs).filter((leg) => leg.trunkId === id);
  const broken: string[] = [];
  if (used.length !== trunk.inUse) broken.push(`${name} counts its channels wrongly`);
  // Who comes in was put through by the provider, and who calls for help goes out all the same; else the exchange never
  // dials beyond the limit.
  const help = new Set(calls.filter(isForHelp).flatMap((call) => call.legs));
  const dialled = used.filter((leg) => leg.party !== 'caller' && !help.has(leg)).length;
  if (dialled > channels) broken.push(`${name} carries more calls than it has channels`);
  return broken;
}
