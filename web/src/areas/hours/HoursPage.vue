<script setup lang="ts">
import { computed } from 'vue';
import type { HoursView } from '@night-bell/core/contracts/opening-hours';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import { dayOf, instantOf } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useCollection } from '../../shell/collection.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import HoursEditor from './HoursEditor.vue';
import StormDay from './StormDay.vue';
import TodayBeam from './TodayBeam.vue';
import { compiled, hoursApi, stateShapes, stateWords } from './words.ts';
import { whenIn } from './zone-time.ts';

/** Sets of opening hours: how each stands today, and the chosen one beside. */
const props = defineProps<{ id?: string }>();
const { items, byId, failed, load } = useCollection(hoursApi);
const session = useSession();
const live = useLive();
const { making, choose, add, close } = useItemList('/hours');
const address = useAddress();
const withRetired = address.flag('deactivated');

const rows = computed(() => (items.value ?? []).filter((set) => !set.retired || withRetired.value));
const chosen = computed(() => byId.value.get(props.id ?? '') ?? null);
/** Moved each minute, not each second. */
const minute = computed(() => live.now - (live.now % 60_000));
const today = computed(() => instantOf(`${dayOf(minute.value, session.timeZone)}T00:00`, session.timeZone));
const sentence = computed(() => {
  if (items.value === null) return 'Reading the list.';
  const inUse = items.value.filter((set) => !set.retired);
  const open = inUse.filter(({ state }) => state === 'open').length;
  const storm = inUse.filter(({ state }) => state === 'storm').length;
  const sets = inUse.length === 1 ? '1 set' : `${inUse.length} sets`;
  return `${sets}, ${open} open now${storm === 0 ? '' : `, ${storm} closed by storm`}`;
});
const standing = (set: HoursView) =>
  set.nextChange === null
    ? stateWords[set.state]
    : `${stateWords[set.state]} until ${whenIn(set.zone, set.nextChange, minute.value)}`;

function step(by: number): void {
  const at = rows.value.findIndex(({ id }) => id === props.id);
  const next = rows.value[Math.min(rows.value.length - 1, Math.max(0, at + by))];
  if (next !== undefined) choose(next);
}
</script>

<template>
  <PageHead title="Opening hours" :sentence="sentence">
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New set<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <div class="left">
      <div class="ruler small">
        <b>Set</b><span class="mono" aria-hidden="true"><i>0</i><i>6</i><i>12</i><i>18</i><i>24</i></span>
      </div>
      <ul
        class="sets"
        role="listbox"
        tabindex="0"
        aria-label="Sets of opening hours"
        :aria-activedescendant="id ? `set-${id}` : undefined"
        @keydown.down.prevent="step(1)"
        @keydown.up.prevent="step(-1)"
      >
        <li
          v-for="(set, index) in rows"
          :id="`set-${set.id}`"
          :key="set.id"
          role="option"
          :aria-selected="set.id === id"
          :class="{ chosen: set.id === id }"
          @click="choose(set)"
        >
          <span class="number mono">{{ index + 1 }}</span>
          <span class="names">
            <b :title="set.name">{{ set.name }}</b>
            <span class="second small"
              ><Shape :name="stateShapes[set.state]" />
              {{ set.retired ? 'Deactivated' : standing(set) }}</span
            >
          </span>
          <TodayBeam :hours="compiled(set)" :from="today" :now="minute" />
        </li>
      </ul>
      <EmptyLine v-if="failed" text="The list could not be read.">
        <v-btn @click="load()">Read it again</v-btn>
      </EmptyLine>
      <EmptyLine
        v-else-if="items !== null && rows.length === 0"
        text="No hours yet. Every plan is always open."
      >
        <v-btn v-if="session.mayEdit" @click="add">New set</v-btn>
      </EmptyLine>
      <StormDay v-if="rows.length > 0" />
    </div>
    <HoursEditor v-if="making" key="new" :set="null" @close="close" @made="choose" />
    <HoursEditor v-else-if="chosen" :key="chosen.id" :set="chosen" @close="close" @made="choose" />
    <p v-else-if="rows.length > 0" class="nothing second">Choose a set to see its week.</p>
  </div>
</template>

<style scoped>
.left {
  width: 328px;
  flex: none;
  overflow: auto;
}
.ruler {
  display: flex;
  justify-content: space-between;
  padding: 6px 0 5px 48px;
  border-bottom: 1px solid var(--rule2);
}
.ruler .mono {
  width: 120px;
  display: flex;
  justify-content: space-between;
  color: var(--ink2);
  margin-right: 4px;
}
.ruler i {
  font-style: normal;
}
.sets {
  border-bottom: 3px double var(--rule2);
  outline-offset: -2px;
}
.sets li {
  display: flex;
  height: 40px;
  border-bottom: 1px solid var(--rule);
  cursor: default;
  padding-right: 4px;
}
.sets li.chosen {
  background: var(--sel);
}
.number {
  width: 34px;
  text-align: right;
  padding: 4px 8px 0 0;
  border-right: 4px double var(--margin);
  flex: none;
}
.names {
  flex: 1;
  min-width: 0;
  padding: 3px 6px 0 8px;
  display: flex;
  flex-direction: column;
}
.names > * {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.nothing {
  padding: 20px;
}
@media (max-width: 1100px) {
  .left {
    width: 280px;
  }
}
</style>
