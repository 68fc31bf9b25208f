<script setup lang="ts">
import type { RingGroupView } from '@night-bell/core/contracts/ring-groups';
import DestinationLine from '../../kit/DestinationLine.vue';
import ExtensionLine from '../../kit/ExtensionLine.vue';
import FormLine from '../../kit/FormLine.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import { useSetUp } from '../../shell/set-up.ts';
import ExtensionTest from '../destinations/ExtensionTest.vue';
import GroupMembers from './GroupMembers.vue';
import GroupRings from './GroupRings.vue';
import { noWay, ringGroupArea } from './words.ts';

/** Who rings, how long, what their phones show, and where callers go whom nobody takes. */
defineProps<{ item: RingGroupView | null }>();
const emit = defineEmits<{ close: []; made: [item: RingGroupView] }>();
const area = ringGroupArea(useSetUp().nameOf);
</script>

<template>
  <ItemSheet :area="area" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #default="{ draft }">
      <ExtensionLine v-model="draft.extension" />
    </template>
    <template #sections="{ draft }">
      <GroupRings :model-value="draft" />
      <section>
        <h3>Ways out</h3>
        <DestinationLine
          v-model="draft.whenUnanswered"
          field="whenUnanswered"
          label="Nobody lifts"
          :none="noWay.whenUnanswered"
          :without="item?.id ?? ''"
        />
        <DestinationLine
          v-model="draft.whenBusy"
          field="whenBusy"
          label="All busy"
          said="When all of them are on a call"
          :none="noWay.whenBusy"
          :without="item?.id ?? ''"
        />
        <DestinationLine
          v-model="draft.whenOutage"
          field="whenOutage"
          label="No phone"
          said="When no phone of theirs is registered, or the line is down"
          hint="No phone of theirs is registered, or the line outside is down."
          :none="noWay.whenOutage"
          :without="item?.id ?? ''"
        />
        <FormLine v-if="item" v-slot="{ id }" field="box" label="Voicemail">
          <router-link :id="id" :to="`/voicemail/${item.voicemailBoxId}`" class="box"
            >Its own box, and its greeting</router-link
          >
        </FormLine>
        <FormLine v-if="item" v-slot="{ id }" field="calls" label="Calls">
          <router-link :id="id" :to="`/calls?ringGroupId=${item.id}`" class="box"
            >Those its phones rang for</router-link
          >
        </FormLine>
      </section>
    </template>
    <template #beside="{ item: shown }">
      <GroupMembers v-if="!shown.retired" :key="shown.version" :group="shown" />
      <ExtensionTest :extension="shown.extension" />
    </template>
  </ItemSheet>
</template>

<style scoped>
.box {
  line-height: 28px;
}
</style>
