<script setup lang="ts">
import type { TrunkDraft } from '@night-bell/core/contracts/trunks';
import { useForm } from '../../kit/form.ts';
import TakeOut from '../../kit/TakeOut.vue';

/** What a minute costs, by the beginning of the number; the longest that fits counts. */
const model = defineModel<TrunkDraft['prices']>({ required: true });
const form = useForm();
const faultOf = (index: number) =>
  form.value.faults[`/prices/${index}/prefix`] ?? form.value.faults[`/prices/${index}/perMinute`];

function add(): void {
  model.value = [...model.value, { prefix: model.value.length === 0 ? '' : '+', perMinute: '' }];
}
</script>

<template>
  <ul v-if="model.length > 0">
    <li v-for="(price, index) in model" :key="index">
      <input
        v-model="price.prefix"
        class="mono"
        :aria-label="`Prefix ${index + 1}`"
        placeholder="all others"
        :readonly="form.readonly"
      />
      <input
        v-model="price.perMinute"
        class="mono right"
        :aria-label="`Price of ${price.prefix || 'all others'}`"
        placeholder="0.0100"
        :readonly="form.readonly"
      />
      <TakeOut
        v-if="!form.readonly"
        :what="`Take ${price.prefix || 'all others'} out`"
        @click="model = model.filter((_, at) => at !== index)"
      />
      <p v-if="faultOf(index)" class="fault-text small">{{ faultOf(index) }}</p>
    </li>
  </ul>
  <p v-else class="second">None. What calls cost cannot be said.</p>
  <div v-if="!form.readonly" class="buttons">
    <v-btn @click="add">Another price</v-btn>
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr 96px 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 28px;
}
li p {
  grid-column: 1 / -1;
}
li input {
  border: 0;
  background: none;
  color: inherit;
  min-width: 0;
  height: 24px;
}
</style>
