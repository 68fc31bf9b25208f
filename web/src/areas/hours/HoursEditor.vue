<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { HoursDraft, HoursView } from '@night-bell/core/contracts/opening-hours';
import { openMinutes, type Week } from '@night-bell/core/hours/week';
import type { UsedBy } from '../../api/client.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import HistoryList from '../../kit/HistoryList.vue';
import Shape from '../../kit/Shape.vue';
import UsedByList from '../../kit/UsedByList.vue';
import { dayOf } from '../../kit/time.ts';
import { useCollection } from '../../shell/collection.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import CalendarExchange from './CalendarExchange.vue';
import FollowedCalendar from './FollowedCalendar.vue';
import RangeSentence from './RangeSentence.vue';
import { useOneWeek } from './one-week.ts';
import UnusualDays from './UnusualDays.vue';
import WeekDrawing from './WeekDrawing.vue';
import WhichWeek from './WhichWeek.vue';
import { compiled, hoursApi, hoursArea, stateShapes, stateWords } from './words.ts';
import YearStrip from './YearStrip.vue';
import { dateWords, whenIn, zones } from './zone-time.ts';

/** One set of opening hours: its week to scale, its unusual days, the year ahead. */
const props = defineProps<{ set: HoursView | null }>();
const emit = defineEmits<{ close: []; made: [set: HoursView] }>();
const { put, readAgain } = useCollection(hoursApi);
const session = useSession();
const live = useLive();
const notices = useNotices();
const chosen = ref<{ day: number; index: number } | null>(null);
const said = ref('');
const users = ref<UsedBy[]>([]);
const history = ref(false);

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<HoursDraft>(async (value, version) => {
    if (props.set === null) {
      const made = await hoursApi.create(value);
      put(made);
      notices.say(`${made.name} is made.`);
      emit('made', made);
      return;
    }
    put(await hoursApi.change(props.set.id, version, value));
    await notices.saved(`${value.name} is saved.`, props.set.id);
  });
const fresh = (): HoursDraft => ({ ...hoursArea.fresh(), zone: session.timeZone });
const reset = () => {
  chosen.value = null;
  begin(props.set === null ? fresh() : hoursArea.draftOf(props.set), props.set?.version ?? 0);
};
watch(
  () => props.set,
  () => {
    if (!changed.value || draft.value === null) reset();
  },
  { immediate: true },
);
watch(
  () => props.set?.version,
  async () => {
    if (props.set === null) return;
    users.value = await hoursApi.read(props.set.id).then(
      ({ usedBy }) => usedBy,
      () => [],
    );
  },
  { immediate: true },
);

const readonly = computed(() => !session.mayEdit || props.set?.retired === true);
const today = computed(() => dayOf(live.now, draft.value?.zone || session.timeZone));
const hours = computed(() =>
  props.set === null || draft.value === null ? null : compiled(props.set, draft.value),
);
const weekHours = computed(() => Math.round(openMinutes((draft.value?.weekly ?? []) as Week) / 6) / 10);
const standing = computed(() => {
  const { set } = props;
  if (set === null) return '';
  const then =
    set.nextChange === null ? 'with no change ahead' : `until ${whenIn(set.zone, set.nextChange, live.now)}`;
  const because = set.today === null ? '' : `, today is ${set.today}`;
  return `${stateWords[set.state]} ${then}${because}`;
});
const { dates, week, notes, go, ...drawing } = useOneWeek(draft, today);
function setWeek(drawn: Week): void {
  said.value = '';
  drawing.setWeek(drawn);
}
function showWeek(date: string): void {
  chosen.value = null;
  drawing.show(date);
}
function step(weeks: number): void {
  chosen.value = null;
  go(weeks);
}
function everyWeek(): void {
  chosen.value = null;
  drawing.everyWeek();
}
function setDays(days: HoursDraft['days']): void {
  draft.value!.days = days;
}
const firstFault = computed(
  () => Object.entries(faults.value).find(([path]) => /^\/(weekly|days)/.test(path))?.[1] ?? '',
);

async function act(work: Promise<HoursView>, done: string): Promise<void> {
  try {
    put(await work);
    notices.say(done);
  } catch (error) {
    notices.fail(error);
  }
}
const retire = ({ id, version, name }: HoursView) =>
  act(hoursApi.retire(id, version), `${name} is deactivated.`);
const reactivate = ({ id, version, name }: HoursView) =>
  act(hoursApi.reactivate(id, version), `${name} is back.`);

useKeys({ 'mod+s': () => void save(), '[': () => step(-1), ']': () => step(1), Escape: () => emit('close') });
</script>

<template>
  <section v-if="draft" class="editor" :aria-label="set?.name ?? 'New set of opening hours'">
    <header>
      <div class="names">
        <input
          v-model="draft.name"
          class="title"
          aria-label="Name"
          placeholder="Name of the set"
          :readonly="readonly"
          :autofocus="set === null"
        />
        <p v-if="faults['/name']" class="fault-text small" role="alert">{{ faults['/name'] }}</p>
        <div class="zone">
          <label for="hours-zone" class="second">In</label>
          <v-autocomplete id="hours-zone" v-model="draft.zone" :items="[...zones]" :readonly="readonly" />
          <span class="second small">{{ weekHours }} hours a week</span>
        </div>
        <p v-if="faults['/zone']" class="fault-text small" role="alert">{{ faults['/zone'] }}</p>
      </div>
      <div v-if="set" class="state">
        <p><Shape :name="stateShapes[set.state]" /> {{ standing }}</p>
        <p v-if="set.nextDay" class="second small">
          Next unusual day: {{ dateWords(set.nextDay.date) }}, {{ set.nextDay.name }}
        </p>
      </div>
    </header>
    <ConflictNote
      v-if="conflict"
      :conflict="conflict"
      :mine="draft"
      :words="hoursArea.words"
      :show="hoursArea.show"
      @mine="keepMine"
      @theirs="takeTheirs"
    />
    <WhichWeek :dates="dates" @every="everyWeek" @go="step" />
    <div class="drawing">
      <WeekDrawing
        v-model:chosen="chosen"
        :week="week"
        :notes="notes"
        :readonly="readonly"
        @change="setWeek"
      />
    </div>
    <div class="line" :class="{ unsaved: changed }">
      <RangeSentence
        :week="week"
        :chosen="chosen"
        :readonly="readonly"
        @change="setWeek"
        @fault="said = $event"
      />
      <p v-if="said || firstFault || general" class="fault-text" role="alert">
        <Shape name="fault" /> {{ said || firstFault || general }}
      </p>
      <p v-if="!readonly && (changed || set === null)" class="ways">
        <b v-if="set !== null" class="plum">Not saved.</b>
        <v-btn size="small" variant="flat" color="primary" :loading="saving" @click="save">{{
          set === null ? 'Make set' : 'Save'
        }}</v-btn>
        <v-btn size="small" @click="set === null ? emit('close') : reset()">{{
          set === null ? 'Leave it' : 'Discard'
        }}</v-btn>
      </p>
    </div>
    <div v-if="hours" class="part">
      <h3>The year ahead</h3>
      <YearStrip :hours="hours" :now="live.now - (live.now % 3_600_000)" @choose="showWeek" />
    </div>
    <div class="part">
      <UnusualDays :days="draft.days" :today="today" :readonly="readonly" @change="setDays" />
      <CalendarExchange
        :name="draft.name"
        :zone="draft.zone"
        :days="draft.days"
        :today="today"
        :readonly="readonly"
        @change="setDays"
      />
      <FollowedCalendar v-if="set" :hours-id="set.id" :readonly="readonly" :changed="changed" />
    </div>
    <div v-if="set" class="part two">
      <div>
        <h3>Used by</h3>
        <UsedByList :users="users" :none="hoursArea.unused ?? ''" />
      </div>
      <div>
        <h3>
          History
          <button type="button" class="link" :aria-expanded="history" @click="history = !history">
            {{ history ? 'Hide' : 'Show' }}
          </button>
        </h3>
        <HistoryList
          v-if="history"
          :key="set.version"
          :item-id="set.id"
          :words="hoursArea.words"
          :show="hoursArea.show"
          @taken-back="readAgain(set.id)"
        />
        <p v-if="session.mayEdit" class="ways">
          <v-btn v-if="!set.retired" size="small" @click="retire(set)">Deactivate</v-btn>
          <v-btn v-else size="small" @click="reactivate(set)">Reactivate</v-btn>
        </p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.editor {
  flex: 1;
  min-width: 0;
  overflow: auto;
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
}
header {
  display: flex;
  gap: 16px;
  padding: 12px 20px 6px;
}
.names {
  flex: 1;
}
.title {
  font: 600 15px/24px var(--serif);
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: var(--ink);
  width: 100%;
}
.title:focus {
  border-color: var(--rule2);
}
.zone {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
.zone :deep(.v-autocomplete) {
  flex: 0 0 210px;
}
.state {
  text-align: right;
}
.drawing {
  padding: 4px 20px 0;
  overflow-x: auto;
}
.line {
  padding: 8px 20px;
  border-bottom: 1px solid var(--rule2);
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  min-height: 48px;
}
.line.unsaved {
  background: var(--wash);
}
.plum {
  color: var(--plum);
}
.ways {
  display: flex;
  gap: 8px;
  align-items: center;
}
.part {
  padding: 10px 20px 6px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
}
.two :deep(section) {
  padding: 4px 0;
}
</style>
