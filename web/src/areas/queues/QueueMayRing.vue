<script setup lang="ts">
import { computed } from 'vue';
import type { QueueRequest } from '@night-bell/core/contracts/queues';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FlagLine from '../../kit/FlagLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import SentenceField from '../../kit/SentenceField.vue';
import { useSetUp } from '../../shell/set-up.ts';
import { phoneLineChoices } from './words.ts';

/** Who is rung though they are busy with something else, and what their phone shows. */
const draft = defineModel<QueueRequest>({ required: true });
const setUp = useSetUp();
const reasons = computed(() =>
  [...new Set([...(setUp.agentSettings?.awayReasons ?? []), ...draft.value.ringsAway])].map((reason) => ({
    value: reason,
    title: reason,
  })),
);
</script>

<template>
  <section>
    <h3>Who may be rung when</h3>
    <ChoiceLine
      v-model="draft.ringsAway"
      field="ringsAway"
      label="Away for"
      :items="reasons"
      many
      placeholder="nobody who is away is rung"
      hint="Whoever is away for one of these is rung all the same."
    />
    <FlagLine v-model="draft.ringsInWrapUp" label="Whoever wraps up is rung, too" />
    <FormSentence :fields="['mostTexts']">
      Nobody is rung who has
      <SentenceField
        v-model="draft.mostTexts"
        field="mostTexts"
        label="Open text conversations from which on nobody is rung; empty when texts do not count"
        any
        placeholder="however"
        :size="6"
      />
      {{
        draft.mostTexts === null
          ? 'many text conversations open: they do not count.'
          : 'text conversations open.'
      }}
    </FormSentence>
    <ChoiceLine
      v-model="draft.phoneShows"
      field="phoneShows"
      label="Phones show"
      :items="phoneLineChoices"
      many
      hint="In the order chosen."
    />
  </section>
</template>
