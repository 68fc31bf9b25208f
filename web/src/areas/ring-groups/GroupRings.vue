<script setup lang="ts">
import { computed } from 'vue';
import type { RingGroupDraft } from '@night-bell/core/contracts/ring-groups';
import { mostRounds } from '@night-bell/core/model/ring';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import { useForm } from '../../kit/form.ts';
import RingTargets from '../../kit/RingTargets.vue';
import SentenceField from '../../kit/SentenceField.vue';
import { useDirectory } from '../../shell/directory.ts';
import { orderChoices, orderHints, showsChoices } from './words.ts';

/** Who rings, in which way and how often, and what their phones show. */
const draft = defineModel<RingGroupDraft>({ required: true });
const form = useForm();
const directory = useDirectory();
/** Where a fault is of one of them, it says who. */
const fault = computed(
  () => Object.entries(form.value.faults).find(([path]) => path.startsWith('/targets'))?.[1],
);
</script>

<template>
  <section>
    <h3>Who is rung</h3>
    <ChoiceLine
      v-model="draft.order"
      field="order"
      label="Rings"
      :items="orderChoices"
      :hint="orderHints[draft.order]"
    />
    <RingTargets
      v-model="draft.targets"
      :name-of="(_kind, id) => directory.nameOf(id)"
      :readonly="form.readonly"
    />
    <p v-if="fault" class="fault-text small" role="alert">{{ fault }}</p>
    <FormSentence :fields="['rounds']">
      All of this
      <SentenceField v-model="draft.rounds" field="rounds" :label="`Rounds, 1 to ${mostRounds}`" :size="1" />
      {{ draft.rounds === 1 ? 'time' : 'times' }}, then the way out.
    </FormSentence>
    <ChoiceLine
      v-model="draft.shows"
      field="shows"
      label="Phones show"
      :items="showsChoices"
      hint="Numbers outside are shown the number dialled, where it is one of ours."
    />
  </section>
</template>
