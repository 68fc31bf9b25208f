<script setup lang="ts">
import { computed } from 'vue';
import type { OutsideView } from '@night-bell/core/contracts/destinations';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import FormLine from '../../kit/FormLine.vue';
import ExtensionLine from '../../kit/ExtensionLine.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import NumberField from '../../kit/NumberField.vue';
import TextLine from '../../kit/TextLine.vue';
import { useSetUp } from '../../shell/set-up.ts';
import ExtensionTest from './ExtensionTest.vue';
import { outsideArea } from './words.ts';

/** A number outside that calls can be sent to. */
defineProps<{ item: OutsideView | null }>();
const emit = defineEmits<{ close: []; made: [item: OutsideView] }>();
const setUp = useSetUp();
const trunks = computed(() => [
  { value: null, title: 'by the dialling rules' },
  ...(setUp.trunks ?? [])
    .filter(({ retired }) => !retired)
    .map(({ id, name }) => ({ value: id, title: name })),
]);
</script>

<template>
  <ItemSheet
    :area="outsideArea(setUp.nameOf)"
    :item="item"
    @close="emit('close')"
    @made="emit('made', $event)"
  >
    <template #default="{ draft }">
      <ExtensionLine v-model="draft.extension" />
      <FormLine v-slot="{ id, readonly }" field="e164" label="Number">
        <NumberField :id="id" v-model="draft.e164" placeholder="+1 425 555 0120" :readonly="readonly" />
      </FormLine>
      <ChoiceLine v-model="draft.trunkId" field="trunkId" label="Over" :items="trunks" />
      <TextLine
        v-model="draft.ringSeconds"
        field="ringSeconds"
        label="Rings for"
        figure
        hint="Seconds; then callers are told that nobody can take the call."
      />
    </template>
    <template #beside="{ item: shown }"><ExtensionTest :extension="shown.extension" /></template>
  </ItemSheet>
</template>
