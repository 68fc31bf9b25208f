<script setup lang="ts">
import { computed } from 'vue';
import { commonLanguages } from '@night-bell/core/model/languages';
import { dialKeys, type ItemKind } from '@night-bell/core/plan/fields';
import type { Condition } from '@night-bell/core/plan/rules';
import TakeOut from '../../kit/TakeOut.vue';
import ThingField from '../../kit/ThingField.vue';
import type { PlanNames } from './plan-names.ts';
import { useRecordFields } from './record-fields.ts';
import { bounds, callerTests, figures, freshCondition, recordTests, states, subjects } from './rule-words.ts';

/** One condition of a rule, as a line that is read: what it is about, and what must be so. */
defineProps<{ names: PlanNames; readonly: boolean; joined: string; label: string }>();
const emit = defineEmits<{ drop: [] }>();
const condition = defineModel<Condition>({ required: true });

const set = (by: object) => (condition.value = { ...condition.value, ...by } as Condition);
const typed = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value;
const kind = computed<ItemKind | null>(() =>
  'id' in condition.value ? (condition.value.about as ItemKind) : null,
);
const fieldNames = useRecordFields();
function whole(event: Event): void {
  const read = Number(typed(event));
  if (Number.isInteger(read) && read >= 0 && read <= 86_400) set({ value: read });
}
</script>

<template>
  <div class="condition" role="group" :aria-label="label">
    <span class="second joined">{{ joined }}</span>
    <select
      :value="condition.about"
      aria-label="About"
      :disabled="readonly"
      @change="condition = freshCondition(typed($event) as Condition['about'])"
    >
      <option v-for="each in subjects" :key="each.about" :value="each.about">{{ each.title }}</option>
    </select>
    <TakeOut v-if="!readonly" what="Take this condition out" @click="emit('drop')" />
    <div class="rest">
      <template v-if="kind !== null && 'id' in condition">
        <v-autocomplete
          v-if="names.choices(kind)"
          aria-label="Which"
          placeholder="Choose"
          :model-value="condition.id || null"
          :items="names.choices(kind)!"
          :readonly="readonly"
          @update:model-value="set({ id: $event ?? '' })"
        />
        <ThingField
          v-else
          label="Which"
          placeholder="Choose"
          :model-value="condition.id || null"
          :kinds="[kind]"
          :readonly="readonly"
          @update:model-value="set({ id: $event ?? '' })"
        />
      </template>
      <select
        v-if="condition.about === 'caller'"
        :value="condition.is"
        aria-label="What must be so"
        :disabled="readonly"
        @change="set({ is: typed($event) })"
      >
        <option v-for="each in callerTests" :key="each.value" :value="each.value">{{ each.title }}</option>
      </select>
      <template v-else-if="condition.about === 'callerNumber'">
        <span class="second">begins with</span>
        <input
          :value="condition.begins"
          class="mono"
          aria-label="Begins with"
          maxlength="16"
          :readonly="readonly"
          @change="set({ begins: typed($event).replace(/[^+\d]/g, '') })"
        />
      </template>
      <select
        v-else-if="condition.about === 'language'"
        :value="condition.language"
        aria-label="Language"
        :disabled="readonly"
        @change="set({ language: typed($event) })"
      >
        <option v-for="{ code, name } in commonLanguages" :key="code" :value="code">{{ name }}</option>
      </select>
      <template v-else-if="condition.about === 'record'">
        <input
          :value="condition.field"
          :list="`record-fields-${label}`"
          aria-label="Field of the record"
          placeholder="field"
          maxlength="80"
          :readonly="readonly"
          @change="set({ field: typed($event).trim() })"
        />
        <datalist :id="`record-fields-${label}`">
          <option v-for="name in fieldNames ?? []" :key="name" :value="name" />
        </datalist>
        <select
          :value="condition.is"
          aria-label="Compared how"
          :disabled="readonly"
          @change="set({ is: typed($event) })"
        >
          <option v-for="each in recordTests" :key="each.value" :value="each.value">{{ each.title }}</option>
        </select>
        <input
          v-if="condition.is !== 'empty'"
          :value="condition.value"
          aria-label="Compared with"
          maxlength="200"
          :readonly="readonly"
          @change="set({ value: typed($event) })"
        />
      </template>
      <template v-else-if="condition.about === 'queue'">
        <select
          :value="condition.figure"
          aria-label="Figure"
          :disabled="readonly"
          @change="set({ figure: typed($event) })"
        >
          <option v-for="each in figures" :key="each.value" :value="each.value">{{ each.title }}</option>
        </select>
        <select
          :value="condition.is"
          aria-label="Compared how"
          :disabled="readonly"
          @change="set({ is: typed($event) })"
        >
          <option v-for="each in bounds" :key="each.value" :value="each.value">{{ each.title }}</option>
        </select>
        <input
          type="number"
          class="mono short"
          min="0"
          max="86400"
          :value="condition.value"
          aria-label="Value"
          :readonly="readonly"
          @change="whole"
        />
      </template>
      <select
        v-else-if="condition.about === 'hours'"
        :value="condition.state"
        aria-label="What must be so"
        :disabled="readonly"
        @change="set({ state: typed($event) })"
      >
        <option v-for="each in states" :key="each.value" :value="each.value">{{ each.title }}</option>
      </select>
      <select
        v-else-if="condition.about === 'key'"
        :value="condition.key"
        class="mono"
        aria-label="Key"
        :disabled="readonly"
        @change="set({ key: typed($event) })"
      >
        <option v-for="each in dialKeys" :key="each" :value="each">{{ each }}</option>
      </select>
    </div>
  </div>
</template>

<style scoped>
.condition {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) 20px;
  gap: 2px 6px;
  align-items: center;
}
.joined {
  text-align: right;
}
.rest {
  grid-column: 2 / 4;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: center;
}
.rest > * {
  min-width: 0;
  flex: 1 1 80px;
}
.rest > .second {
  flex: none;
}
input,
select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: var(--sheet);
  color: var(--ink);
  height: 26px;
  padding: 0 2px;
}
.rest > .short {
  flex: 0 0 64px;
}
</style>
