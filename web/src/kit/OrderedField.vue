<script setup lang="ts">
import { computed } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import AddField from './AddField.vue';
import { useForm } from './form.ts';
import TakeOut from './TakeOut.vue';

/** Some of a few things, in an order that counts. */
const props = defineProps<{
  items: readonly { id: string; name: string; retired: boolean }[];
  nameOf: (id: string) => string;
  /** 'Add a trunk'. */
  label: string;
  /** What it means that none is named. */
  empty: string;
}>();
const model = defineModel<string[]>({ required: true });
const form = useForm();
const free = computed(() =>
  props.items
    .filter(({ id, retired }) => !retired && !model.value.includes(id))
    .map(({ id, name }) => ({ value: id, title: name })),
);
</script>

<template>
  <VueDraggable v-model="model" tag="ul" handle=".handle" :disabled="form.readonly">
    <li v-for="(id, index) in model" :key="id">
      <span class="mono second handle">{{ index + 1 }}</span>
      <span>{{ nameOf(id) }}</span>
      <TakeOut
        v-if="!form.readonly"
        :what="`Take ${nameOf(id)} out`"
        @click="model = model.filter((each) => each !== id)"
      />
    </li>
  </VueDraggable>
  <p v-if="model.length === 0" class="second">{{ empty }}</p>
  <AddField
    v-if="!form.readonly && free.length > 0"
    :items="free"
    :label="label"
    @add="model = [...model, $event]"
  />
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 20px 1fr 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 26px;
}
.handle {
  cursor: grab;
  text-align: right;
}
</style>
