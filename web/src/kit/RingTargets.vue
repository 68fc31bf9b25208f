<script setup lang="ts">
import { computed } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { mostTargets, ringSeconds, type RingTarget, ringTargetKinds } from '@night-bell/core/model/ring';
import AddField from './AddField.vue';
import { kindWords, secondOf, useFinding } from './finding.ts';
import TakeOut from './TakeOut.vue';

/** Who is rung, in order, each for some seconds: people, teams and numbers outside. */
const props = defineProps<{
  modelValue: readonly RingTarget[];
  nameOf: (kind: RingTarget['kind'], id: string) => string;
  readonly: boolean;
}>();
const emit = defineEmits<{ 'update:modelValue': [targets: RingTarget[]] }>();
const list = computed({
  get: () => [...props.modelValue],
  set: (targets) => emit('update:modelValue', targets),
});
const { search, open, found } = useFinding(
  () => ringTargetKinds,
  () => '',
);
const choices = computed(() =>
  found.value
    .filter(({ id }) => !props.modelValue.some((target) => target.id === id))
    .map((entry) => ({
      value: `${entry.kind} ${entry.id}`,
      title: entry.name,
      props: { subtitle: [kindWords[entry.kind], secondOf(entry)].filter(Boolean).join(', ') },
    })),
);

function add(chosen: string): void {
  const [kind, id] = chosen.split(' ') as [RingTarget['kind'], string];
  list.value = [...props.modelValue, { kind, id, seconds: ringSeconds.usual }];
}
function seconds(index: number, typed: string): void {
  const read = Number(typed);
  if (!Number.isInteger(read) || read < ringSeconds.least || read > ringSeconds.most) return;
  list.value = props.modelValue.map((target, i) => (i === index ? { ...target, seconds: read } : target));
}
</script>

<template>
  <div>
    <VueDraggable v-model="list" tag="ul" handle=".handle" :disabled="readonly">
      <li v-for="(target, index) in modelValue" :key="target.id">
        <span class="mono second handle" :title="readonly ? '' : 'Drag to reorder'">{{ index + 1 }}</span>
        <span class="who">{{ nameOf(target.kind, target.id) }}</span>
        <input
          type="number"
          class="mono"
          :min="ringSeconds.least"
          :max="ringSeconds.most"
          :value="target.seconds"
          :readonly="readonly"
          :aria-label="`Seconds ${nameOf(target.kind, target.id)} rings`"
          @change="seconds(index, ($event.target as HTMLInputElement).value)"
        />
        <span class="second">s</span>
        <TakeOut
          v-if="!readonly"
          :what="`Take ${nameOf(target.kind, target.id)} out`"
          @click="list = modelValue.filter((_, i) => i !== index)"
        />
      </li>
    </VueDraggable>
    <p v-if="modelValue.length === 0" class="second">Nobody yet.</p>
    <AddField
      v-if="!readonly && modelValue.length < mostTargets"
      v-model:search="search"
      v-model:menu="open"
      no-filter
      :items="choices"
      label="Add a person, team or outside number"
      @add="add"
    />
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 20px 1fr 44px 10px 20px;
  gap: 6px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 30px;
}
.handle {
  cursor: grab;
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
input {
  width: 44px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  text-align: right;
}
</style>
