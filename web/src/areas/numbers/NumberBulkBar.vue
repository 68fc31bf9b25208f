<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { ref } from 'vue';
import type { Destination } from '@night-bell/core/model/destination';
import { api, ask } from '../../api/client.ts';
import DestinationField from '../../kit/DestinationField.vue';
import { allMade } from '../../kit/making.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** Where all marked numbers are to lead: chosen once, or made right here. */
const props = defineProps<{
  ids: string[];
  /** How many fit what the list is narrowed to. */
  fit: number;
}>();
const emit = defineEmits<{ clear: []; all: [] }>();
const setUp = useSetUp();
const notices = useNotices();
const destination = ref<Destination | null>(null);
const busy = ref(false);

async function route(): Promise<void> {
  busy.value = true;
  try {
    await allMade();
    const { batch } = await ask(
      api.POST('/api/numbers/bulk', {
        body: { ids: props.ids, change: { destination: destination.value as never } },
      }),
    );
    await setUp.load();
    notices.say(
      `${props.ids.length === 1 ? '1 number leads' : `${props.ids.length} numbers lead`} there now.`,
      async () => {
        await ask(api.POST('/api/batches/{id}/take-back', { params: { path: { id: batch } } }));
        await setUp.load();
        notices.say('Taken back.');
      },
    );
    emit('clear');
  } catch (error) {
    notices.fail(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="bulk" aria-label="Send the marked numbers somewhere" @submit.prevent="route">
    <b class="mono">{{ ids.length }}</b> marked: send to
    <DestinationField
      id="bulk-destination"
      v-model="destination"
      label="Where they lead"
      none="nowhere"
      make-queue
    />
    <v-btn type="submit" variant="flat" color="primary" class="small-button" :loading="busy">Do it</v-btn>
    <button v-if="fit > ids.length" class="link" type="button" @click="emit('all')">
      Mark all {{ fit.toLocaleString(locale) }}
    </button>
    <button class="link" type="button" @click="emit('clear')">Unmark</button>
  </form>
</template>

<style scoped>
.bulk {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 5px 20px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
}
.bulk > div {
  flex: 0 1 260px;
}
</style>
