<script setup lang="ts">
import { computed } from 'vue';
import { type Destination, type NoAnswerStep, passingSteps } from '@night-bell/core/model/destination';
import DestinationField from '../../kit/DestinationField.vue';

/** What follows when nobody lifts, step by step; the open last line is where the call rests, and adds a step. */
const props = defineProps<{ personId: string; faults: Record<string, string>; readonly: boolean }>();
const steps = defineModel<NoAnswerStep[]>({ required: true });
const otherPhones = { value: 'otherPhones', title: 'Their other phones, in ring order' };
const mostSteps = 5;

const isOpen = computed(() => {
  const last = steps.value.at(-1);
  return steps.value.length < mostSteps && (last === undefined || passingSteps.includes(last.kind));
});
/** Their other phones ring once; a second time would be the same phones. */
const also = (index: number) =>
  steps.value.some((step, at) => step.kind === 'otherPhones' && at !== index) ? [] : [otherPhones];

function set(index: number, step: NoAnswerStep | null): void {
  const next = [...steps.value];
  next.splice(index, 1, ...(step === null ? [] : [step]));
  steps.value = next;
}
function earlier(index: number): void {
  const next = [...steps.value];
  next.splice(index - 1, 2, next[index]!, next[index - 1]!);
  steps.value = next;
}
const destinationAt = (index: number) => {
  const step = steps.value[index];
  return step === undefined || step.kind === 'otherPhones' ? null : (step as Destination);
};
</script>

<template>
  <ol>
    <li v-for="(step, index) in steps" :key="JSON.stringify(step)">
      <DestinationField
        :id="index === 0 ? 'sheet-no-answer' : `sheet-no-answer-${index}`"
        :model-value="destinationAt(index)"
        :label="`Step ${index + 1} when nobody lifts`"
        none="Leave this step out"
        make-queue
        :readonly="readonly"
        :without="props.personId"
        :also="also(index)"
        :also-chosen="step.kind === 'otherPhones' ? 'otherPhones' : null"
        @update:model-value="set(index, $event)"
        @also="set(index, { kind: 'otherPhones' })"
      />
      <button
        v-if="index > 0 && !readonly"
        class="link"
        type="button"
        :aria-label="`Step ${index + 1} earlier`"
        @click="earlier(index)"
      >
        earlier
      </button>
      <p v-if="faults[`/noAnswer/${index}`]" class="fault-text small">{{ faults[`/noAnswer/${index}`] }}</p>
    </li>
    <li v-if="isOpen" class="last">
      <DestinationField
        :id="steps.length === 0 ? 'sheet-no-answer' : 'sheet-no-answer-last'"
        :model-value="null"
        label="After the last step"
        none="Their own voicemail"
        make-queue
        :readonly="readonly"
        :without="props.personId"
        :also="also(-1)"
        :also-chosen="null"
        @update:model-value="$event !== null && set(steps.length, $event)"
        @also="set(steps.length, { kind: 'otherPhones' })"
      />
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  counter-reset: step;
}
li {
  counter-increment: step;
  display: grid;
  grid-template-columns: 18px minmax(0, 1fr) 44px;
  align-items: center;
  gap: 0 4px;
}
li::before {
  content: counter(step);
  font: 12px/1 var(--mono);
  color: var(--ink2);
}
p {
  grid-column: 2 / -1;
}
.link {
  font-size: 12px;
}
</style>
