<script setup lang="ts">
import type { VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import { computed } from 'vue';
import DestinationField from '../../kit/DestinationField.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import LedgerField from '../../kit/LedgerField.vue';
import MembersField from '../../kit/MembersField.vue';
import Shape from '../../kit/Shape.vue';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import GreetingMatrix from './GreetingMatrix.vue';
import PinField from './PinField.vue';
import { voicemailArea } from './words.ts';

/** One box: what it says, how long it records, who hears it. */
const props = defineProps<{ item: VoicemailBoxView | null }>();
const emit = defineEmits<{ close: []; made: [item: VoicemailBoxView] }>();
const session = useSession();
const setUp = useSetUp();
const area = computed(() => ({ ...voicemailArea, second: owner.value }));
const owner = computed(() => {
  const box = props.item;
  if (box === null) return 'A box for several, with an extension of its own';
  if (box.ownerKind === null) return `Shared box${box.extension === null ? '' : ` ${box.extension}`}`;
  return `Of ${setUp.nameOf(box.ownerId ?? '')}${box.extension === null ? '' : `, ${box.extension}`}`;
});
const nobody = computed(() =>
  props.item?.ownerKind === 'person'
    ? 'Nobody but its owner.'
    : props.item?.ownerKind === 'queue'
      ? 'Nobody but the people of its queue, and supervisors.'
      : props.item?.ownerKind === 'ringGroup'
        ? 'Nobody but the people of its group, and supervisors.'
        : 'Nobody but supervisors. Name who is to hear it.',
);
const addresses = (text: string) => text.split(/[\s,;]+/).filter(Boolean);
</script>

<template>
  <ItemSheet :area="area" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #state>
      <span v-if="item && item.fresh > 0"><Shape name="messageNew" /> {{ item.fresh }} new</span>
      <span v-else-if="item" class="second">{{ item.held }} in it</span>
    </template>
    <template #default="{ draft, faults, readonly }">
      <LedgerField label="Extension" for="box-extension" :fault="faults['/extension']">
        <v-text-field
          id="box-extension"
          :model-value="draft.extension ?? ''"
          :readonly="readonly"
          class="mono short"
          placeholder="none"
          @update:model-value="draft.extension = $event === '' ? null : $event"
        />
      </LedgerField>
      <GreetingMatrix
        v-model="draft.greetings"
        :hours-id="draft.hoursId"
        :readonly="readonly"
        :fault="faults['/greetings'] ?? faults['/hoursId']"
        @hours="draft.hoursId = $event"
      />
      <LedgerField label="Records" for="box-longest" :fault="faults['/maxMessageSeconds']">
        <span class="words"
          >up to
          <input
            id="box-longest"
            v-model.number="draft.maxMessageSeconds"
            type="number"
            min="10"
            max="600"
            class="mono number"
            :readonly="readonly"
          />
          seconds</span
        >
      </LedgerField>
      <LedgerField label="Keeps" for="box-days" :fault="faults['/keepDays'] ?? faults['/mostMessages']">
        <span class="words"
          ><input
            id="box-days"
            v-model.number="draft.keepDays"
            type="number"
            min="1"
            max="3650"
            class="mono number"
            :readonly="readonly"
          />
          days, and is full at
          <input
            v-model.number="draft.mostMessages"
            type="number"
            min="1"
            max="1000"
            class="mono number"
            aria-label="Messages at which it is full"
            :readonly="readonly"
          />
          messages</span
        >
      </LedgerField>
      <LedgerField
        label="When full"
        for="box-full"
        :fault="faults['/whenFull']"
        hint="The caller is told first. Also when there is no room for recordings."
      >
        <DestinationField
          id="box-full"
          v-model="draft.whenFull"
          label="Where callers go when the box is full"
          none="The call ends"
          :readonly="readonly"
          :without="item?.id ?? ''"
        />
      </LedgerField>
      <LedgerField label="Heard by" for="box-listeners" :fault="faults['/listeners']">
        <MembersField v-model="draft.listeners" field="listeners" :empty="nobody" />
      </LedgerField>
      <LedgerField
        label="Mail to"
        for="box-mail"
        :fault="
          faults['/mailTo'] ?? Object.entries(faults).find(([path]) => path.startsWith('/mailTo/'))?.[1]
        "
        hint="Addresses told of a new message, up to ten."
      >
        <v-text-field
          id="box-mail"
          :model-value="draft.mailTo.join(', ')"
          :readonly="readonly"
          placeholder="nobody"
          @change="draft.mailTo = addresses(($event.target as HTMLInputElement).value)"
        />
      </LedgerField>
    </template>
    <template #beside="{ item: shown }">
      <PinField v-if="session.mayEdit" :box="shown" />
    </template>
  </ItemSheet>
</template>

<style scoped>
.short {
  max-width: 90px;
}
.words {
  display: block;
  padding-top: 4px;
}
.number {
  width: 52px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  text-align: right;
  appearance: textfield;
}
</style>
