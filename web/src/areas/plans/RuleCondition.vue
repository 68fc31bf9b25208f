<script setup lang="ts">
import { computed } from 'vue';
import { commonLanguages } from '@night-bell/core/model/languages';
import { dialKeys, type ItemKind } from '@night-bell/core/plan/fields';
import type { Condition } from '@night-bell/core/plan/rules';
import PlainSelect from '../../kit/PlainSelect.vue';
import TakeOut from '../../kit/TakeOut.vue';
import ThingField from '../../kit/ThingField.vue';
import type { Choice, PlanNames } from './plan-names.ts';
import { useRecordFields } from './record-fields.ts';
import { bounds, callerTests, figures, freshCondition, recordTests, states, subjects } from './rule-words.ts';

/** One condition of a rule, as a line that is read: what it is about, and what must be so. */
defineProps<{ names: PlanNames; readonly: boolean; joined: string; label: string }>();
const emit = defineEmits<{ drop: [] }>();
const condition = defineModel<Condition>({ required: true });

const set = (by: object) => (condition.value = { ...condition.value, ...by } as Condition);
const typed = (event: Event) => (event.target as HTMLInputElement).value;
const kind = computed<ItemKind | null>(() =>
  'id' in condition.value ? (condition.value.about as ItemKind) : null,
);
const fieldNames = useRecordFields();
const languages = commonLanguages.map(({ code, name }) => ({ value: code, title: name }));
const keys = dialKeys.map((key) => ({ value: key, title: key }));
/** What of the condition is chosen from a few words, in the order in which it is read. */
const choices = computed(() => {
  const one = (field: string, label: string, value: string, options: readonly Choice[]) => ({
    ...{ field, label, value, options },
  });
  const now = condition.value;
  switch (now.about) {
    case 'caller':
      return [one('is', 'What must be so', now.is, callerTests)];
    case 'language':
      return [one('language', 'Language', now.language, languages)];
    case 'record':
    case 'found':
      return [one('is', 'Compared how', now.is, recordTests)];
    case 'queue':
      return [one('figure', 'Figure', now.figure, figures), one('is', 'Compared how', now.is, bounds)];
    case 'hours':
      return [one('state', 'What must be so', now.state, states)];
    case 'key':
      return [one('key', 'Key', now.key, keys)];
    default:
      return [];
  }
});
function whole(event: Event): void {
  const read = Number(typed(event));
  if (Number.isInteger(read) && read >= 0 && read <= 86_400) set({ value: read });
}
</script>

<template>
  <div class="condition" role="group" :aria-label="label">
    <span class="second joined">{{ joined }}</span>
    <PlainSelect
      label="About"
      :model-value="condition.about"
      :options="subjects"
      :readonly="readonly"
      @update:model-value="condition = freshCondition($event)"
    />
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
      <template v-if="condition.about === 'callerNumber'">
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
      <template v-else-if="condition.about === 'record' || condition.about === 'found'">
        <input
          :value="condition.field"
          :list="condition.about === 'record' ? `record-fields-${label}` : undefined"
          :aria-label="condition.about === 'record' ? 'Field of the record' : 'Name of what it found'"
          placeholder="field"
          maxlength="80"
          :readonly="readonly"
          @change="set({ field: typed($event).trim() })"
        />
        <datalist :id="`record-fields-${label}`">
          <option v-for="name in fieldNames ?? []" :key="name" :value="name" />
        </datalist>
      </template>
      <PlainSelect
        v-for="each in choices"
        :key="each.field"
        :label="each.label"
        :model-value="each.value"
        :options="each.options"
        :readonly="readonly"
        @update:model-value="set({ [each.field]: $event })"
      />
      <input
        v-if="(condition.about === 'record' || condition.about === 'found') && condition.is !== 'empty'"
        :value="condition.value"
        aria-label="Compared with"
        maxlength="200"
        :readonly="readonly"
        @change="set({ value: typed($event) })"
      />
      <input
        v-else-if="condition.about === 'queue'"
        type="number"
        class="mono short"
        min="0"
        max="86400"
        :value="condition.value"
        aria-label="Value"
        :readonly="readonly"
        @change="whole"
      />
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
input {
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
