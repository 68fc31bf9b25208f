<script setup lang="ts">
import type { RoomView } from '@night-bell/core/contracts/destinations';
import { roomsApi } from '../../api/lists.ts';
import FlagLine from '../../kit/FlagLine.vue';
import ExtensionLine from '../../kit/ExtensionLine.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import TextLine from '../../kit/TextLine.vue';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import ExtensionTest from './ExtensionTest.vue';
import { roomArea } from './words.ts';

/** A conference room. Its PIN is typed and never read. */
defineProps<{ item: RoomView | null }>();
const emit = defineEmits<{ close: []; made: [item: RoomView] }>();
const area = roomArea(useSetUp().nameOf);
const { put } = useCollection(roomsApi);
const session = useSession();
const notices = useNotices();

async function openDoor(room: RoomView): Promise<void> {
  try {
    put(await roomsApi.change(room.id, room.version, { ...area.draftOf(room), pin: null }));
    notices.say('Everybody who reaches the room may come in.');
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <ItemSheet :area="area" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #default="{ draft, readonly }">
      <ExtensionLine v-model="draft.extension" />
      <TextLine
        v-if="!readonly"
        v-model="draft.pin"
        field="pin"
        label="PIN"
        mono
        emptied="undefined"
        :placeholder="item?.hasPin ? 'kept' : 'none'"
        :hint="
          item?.hasPin
            ? 'One is asked for. It cannot be read back; type another to replace it.'
            : 'None: everybody who reaches the room may come in.'
        "
      />
      <FlagLine v-model="draft.joinTone" label="A tone is heard when somebody comes in" />
    </template>
    <template #beside="{ item: shown }">
      <ExtensionTest :extension="shown.extension" />
      <section v-if="session.mayEdit && shown.hasPin">
        <v-btn @click="openDoor(shown)">Ask for no PIN</v-btn>
      </section>
    </template>
  </ItemSheet>
</template>
