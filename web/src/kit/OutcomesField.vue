<script setup lang="ts">
import { type Outcome, usualOutcomes } from '@night-bell/core/model/outcomes';
import Shape from './Shape.vue';

/** The outcomes agents choose from, each with what it means; none of its own means the usual ones. */
defineProps<{ readonly: boolean; faults: Record<string, string> }>();
const model = defineModel<Outcome[]>({ required: true });

const thens = [
  { value: 'done', title: 'done' },
  { value: 'tryAgain', title: 'call again' },
  { value: 'optOut', title: 'never call again' },
];

function add(): void {
  model.value = [...model.value, { name: '', good: false, then: 'done' }];
}
</script>

<template>
  <div>
    <p v-if="model.length === 0" class="second">
      The usual ones: {{ usualOutcomes.map((each) => each.name).join(', ') }}.
      <button
        v-if="!readonly"
        class="link"
        type="button"
        @click="model = usualOutcomes.map((each) => ({ ...each }))"
      >
        Make them its own
      </button>
    </p>
    <ul v-else>
      <li v-for="(outcome, index) in model" :key="index">
        <input
          v-model="outcome.name"
          :readonly="readonly"
          :aria-label="`Outcome ${index + 1}`"
          maxlength="40"
        />
        <select v-model="outcome.then" :disabled="readonly" :aria-label="`What follows outcome ${index + 1}`">
          <option v-for="each in thens" :key="each.value" :value="each.value">{{ each.title }}</option>
        </select>
        <label><input v-model="outcome.good" type="checkbox" :disabled="readonly" /> good</label>
        <button
          v-if="!readonly"
          type="button"
          class="out"
          :aria-label="`Take ${outcome.name} out`"
          @click="model = model.filter((_, at) => at !== index)"
        >
          ×
        </button>
        <p v-if="faults[`/outcomes/${index}/name`] ?? faults[`/outcomes/${index}`]" class="fault-text small">
          <Shape name="fault" /> {{ faults[`/outcomes/${index}/name`] ?? faults[`/outcomes/${index}`] }}
        </p>
      </li>
    </ul>
    <button v-if="!readonly && model.length > 0" class="link" type="button" @click="add">
      Add an outcome
    </button>
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr 118px 62px 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 28px;
}
input:not([type]),
select {
  border: 0;
  background: none;
  color: inherit;
  height: 26px;
  padding: 0 2px;
  font: 13px/18px var(--sans);
  min-width: 0;
}
select option {
  background: var(--sheet);
}
label {
  display: flex;
  gap: 4px;
  align-items: center;
}
.out {
  border: 0;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  font-size: 15px;
}
li p {
  grid-column: 1 / -1;
}
.link {
  margin-top: 4px;
}
</style>
