<script setup lang="ts">
import { computed, ref } from 'vue';
import { useForm } from './form.ts';
import Shape from './Shape.vue';

/** A script with merge fields; the known fields go in with a press, where the cursor stands. */
defineProps<{ fields?: readonly string[] }>();
const form = useForm();
const fault = computed(() => form.value.faults['/script']);
const model = defineModel<string>({ required: true });
const area = ref<HTMLTextAreaElement | null>(null);
const common = ['agent.first_name', 'company.name', 'record.name'];

function insert(field: string): void {
  const element = area.value;
  const text = `{{ ${field} }}`;
  const from = element?.selectionStart ?? model.value.length;
  const to = element?.selectionEnd ?? from;
  model.value = model.value.slice(0, from) + text + model.value.slice(to);
  element?.focus();
}
</script>

<template>
  <div>
    <textarea
      :id="`${form.kind}-script`"
      ref="area"
      v-model="model"
      rows="6"
      :readonly="form.readonly"
      :class="{ faulty: fault }"
      aria-label="Script"
      placeholder="What the agent says, with fields like {{ contact.first_name }}"
    ></textarea>
    <p v-if="fault" class="fault-text small" role="alert"><Shape name="fault" /> {{ fault }}</p>
    <p v-if="!form.readonly" class="small second fields">
      Put in:
      <button
        v-for="field in fields ?? common"
        :key="field"
        class="link"
        type="button"
        @click="insert(field)"
      >
        {{ field }}
      </button>
    </p>
  </div>
</template>

<style scoped>
textarea {
  width: 100%;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 6px 8px;
  font: 13px/19px var(--sans);
  resize: vertical;
}
.faulty {
  border-color: var(--oxide);
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding-top: 2px;
}
.fields button {
  font: 12px/16px var(--mono);
  font-weight: 400;
}
</style>
