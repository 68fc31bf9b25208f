<script setup lang="ts">
import { type Outcome, usualOutcomes } from '@night-bell/core/model/outcomes';
import { useForm } from './form.ts';
import Shape from './Shape.vue';
import TakeOut from './TakeOut.vue';

/** The outcomes agents choose from, each with what it means; none of its own means the usual ones. */
const form = useForm();
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
        v-if="!form.readonly"
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
          :readonly="form.readonly"
          :aria-label="`Outcome ${index + 1}`"
          maxlength="40"
        />
        <v-select
          v-model="outcome.then"
          :items="thens"
          :readonly="form.readonly"
          :aria-label="`What follows outcome ${index + 1}`"
        />
        <v-checkbox v-model="outcome.good" label="good" :readonly="form.readonly" />
        <TakeOut
          v-if="!form.readonly"
          :what="`Take ${outcome.name} out`"
          @click="model = model.filter((_, at) => at !== index)"
        />
        <p
          v-if="form.faults[`/outcomes/${index}/name`] ?? form.faults[`/outcomes/${index}`]"
          class="fault-text small"
        >
          <Shape name="fault" />
          {{ form.faults[`/outcomes/${index}/name`] ?? form.faults[`/outcomes/${index}`] }}
        </p>
      </li>
    </ul>
    <button v-if="!form.readonly && model.length > 0" class="link" type="button" @click="add">
      Add an outcome
    </button>
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr 136px 66px 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 28px;
}
input:not([type]) {
  border: 0;
  background: none;
  color: inherit;
  height: 26px;
  padding: 0 2px;
  font: 13px/18px var(--sans);
  min-width: 0;
}
li p {
  grid-column: 1 / -1;
}
.link {
  margin-top: 4px;
}
</style>
