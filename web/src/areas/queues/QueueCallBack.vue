<script setup lang="ts">
import { computed } from 'vue';
import type { QueueRequest } from '@night-bell/core/contracts/queues';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import SentenceField from '../../kit/SentenceField.vue';
import { useForm } from '../../kit/form.ts';
import { callBackFirstChoices, usualCallBack, waitingKeys } from './words.ts';

/** Callers who do not want to wait are called back in their turn. */
const draft = defineModel<QueueRequest>({ required: true });
const form = useForm();
const rules = computed(() => draft.value.callBack);
</script>

<template>
  <section>
    <h3>Call-back instead of waiting</h3>
    <v-checkbox
      :model-value="rules !== null"
      label="Callers may keep their place and be called back"
      :readonly="form.readonly"
      @update:model-value="draft.callBack = $event ? usualCallBack() : null"
    />
    <template v-if="rules">
      <ChoiceLine
        v-model="rules.key"
        field="callBack/key"
        label="By key"
        :items="waitingKeys"
        hint="They are told the number, and confirm it with 1."
      />
      <ChoiceLine
        v-model="rules.first"
        field="callBack/first"
        label="Rings first"
        :items="callBackFirstChoices"
      />
      <FormSentence :fields="['callBack']">
        Offered after
        <SentenceField
          v-model="rules.offerAfterSeconds"
          field="callBack/offerAfterSeconds"
          label="Seconds of waiting, or of expected waiting, after which it is offered"
          any
          placeholder="never"
          :size="5"
        />
        s of waiting, at once where it is expected to take longer. Who is not reached is called
        <SentenceField
          v-model="rules.tries"
          field="callBack/tries"
          label="Times they are called in all"
          :size="2"
        />
        times, every
        <SentenceField
          v-model="rules.retryMinutes"
          field="callBack/retryMinutes"
          label="Minutes between two tries"
          :size="3"
        />
        minutes, from
        <SentenceField
          v-model="rules.fromHour"
          field="callBack/fromHour"
          label="Hour from which they are called"
          :size="2"
        />
        to
        <SentenceField
          v-model="rules.toHour"
          field="callBack/toHour"
          label="Hour until which they are called"
          :size="2"
        />
        o'clock.
      </FormSentence>
    </template>
  </section>
</template>
