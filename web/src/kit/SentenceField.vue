<script setup lang="ts">
import { computed } from 'vue';
import { useForm } from './form.ts';

/** A figure or a word within a sentence. With `any`, emptied means no limit. */
const props = defineProps<{
  field: string;
  label: string;
  any?: boolean;
  /** Words, not a figure. */
  words?: boolean;
  placeholder?: string;
  /** Taken when it is left, not with each key: what is half typed would be read. */
  late?: boolean;
  /** Room for so many characters. */
  size?: number;
}>();
const model = defineModel<string | number | null>({ required: true });
const form = useForm();
const faulty = computed(() => form.value.faults[`/${props.field}`] !== undefined);

function typed({ target }: Event): void {
  const { value } = target as HTMLInputElement;
  if (props.any === true && value.trim() === '') model.value = null;
  else
    model.value =
      props.words === true || value.trim() === '' || Number.isNaN(Number(value)) ? value : Number(value);
}
</script>

<template>
  <input
    :id="`${form.kind}-${field}`"
    :value="model ?? ''"
    :class="{ words, faulty }"
    :style="{ width: `${(size ?? 4) * 8 + 16}px` }"
    :placeholder="placeholder ?? (any ? 'any' : '')"
    :aria-label="label"
    :aria-invalid="faulty || undefined"
    :readonly="form.readonly"
    :inputmode="words ? undefined : 'decimal'"
    autocomplete="off"
    @input="late || typed($event)"
    @change="late && typed($event)"
  />
</template>

<style scoped>
input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 0 2px;
  height: 24px;
  font: 12px/18px var(--mono);
  text-align: right;
}
.words {
  text-align: left;
}
.faulty {
  border-color: var(--oxide);
}
</style>
