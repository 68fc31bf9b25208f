<script setup lang="ts">
import { computed } from 'vue';
import type { QueueRequest } from '@night-bell/core/contracts/queues';
import FlagLine from '../../kit/FlagLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import SentenceField from '../../kit/SentenceField.vue';
import TakeOut from '../../kit/TakeOut.vue';
import { useForm } from '../../kit/form.ts';
import { useRecordFields } from '../plans/record-fields.ts';

/** Whose turn it is: priority, what a record adds to it, and what waiting does. */
const draft = defineModel<QueueRequest>({ required: true });
const form = useForm();
const recordFields = useRecordFields();
const known = computed(() => recordFields.value ?? []);

function add(): void {
  const field = draft.value.recordPriorities.at(-1)?.field ?? known.value[0] ?? '';
  draft.value.recordPriorities = [...draft.value.recordPriorities, { field, value: '', priority: 5 }];
}
</script>

<template>
  <section>
    <h3>Whose turn it is</h3>
    <FormSentence :fields="['priority', 'agePoints']">
      The queue is served at priority
      <SentenceField v-model="draft.priority" field="priority" label="Priority from 0 to 9" :size="2" />,
      larger first. A minute of waiting adds
      <SentenceField
        v-model="draft.agePoints"
        field="agePoints"
        label="Points a minute of waiting adds, 0 to 9"
        :size="2"
      />
      to a caller's own.
    </FormSentence>
    <FlagLine
      v-if="Number(draft.agePoints) > 0"
      v-model="draft.agesAcross"
      label="It counts beside callers of other queues too"
    />
    <FormSentence
      v-for="(rule, index) in draft.recordPriorities"
      :key="index"
      :fields="[`recordPriorities/${index}`]"
    >
      Whose record has
      <SentenceField
        v-model="rule.field"
        :field="`recordPriorities/${index}/field`"
        label="Field of the record"
        words
        :size="8"
        :placeholder="known[0] ?? 'field'"
      />
      at
      <SentenceField
        v-model="rule.value"
        :field="`recordPriorities/${index}/value`"
        label="Value of that field"
        words
        :size="10"
      />
      comes at
      <SentenceField
        v-model="rule.priority"
        :field="`recordPriorities/${index}/priority`"
        label="Priority from 0 to 9"
        :size="2"
      />
      <TakeOut
        v-if="!form.readonly"
        what="Take this out"
        @click="draft.recordPriorities = draft.recordPriorities.filter((_, at) => at !== index)"
      />
    </FormSentence>
    <button v-if="!form.readonly" class="link small add" type="button" @click="add">
      Give callers a priority by their record
    </button>
  </section>
</template>

<style scoped>
.add {
  display: block;
  min-height: 24px;
  margin-top: 4px;
}
</style>
