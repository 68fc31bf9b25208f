<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, type EmergencyCall } from '../../api/client.ts';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

/** Calls for help of the last day that nobody has taken notice of yet. */
const live = useLive();
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
const calls = ref<EmergencyCall[]>([]);
const open = computed(() => calls.value.filter((call) => call.seenBy === null));

async function load(): Promise<void> {
  calls.value = await ask(api.GET('/api/emergency-calls')).catch(() => calls.value);
}
const beat = computed(() => Math.floor(live.now / 5_000));
watch(beat, load, { immediate: true });

async function seen(id: string): Promise<void> {
  await ask(api.POST('/api/emergency-calls/{id}/seen', { params: { path: { id } } })).catch(notices.fail);
  await load();
}
</script>

<template>
  <section v-if="open.length > 0" class="help" role="alert">
    <p v-for="call in open" :key="call.callId">
      <Shape name="fault" />
      <b>{{ call.personName }} dialled {{ call.digits }}</b>
      <span>{{ moment(call.at) }}</span>
      <span>{{ call.address ? `Help is needed at ${call.address}` : 'No address was known.' }}</span>
      <span v-if="call.extension" class="mono">{{ call.extension }}</span>
      <router-link :to="`/calls/${call.callId}`">The call</router-link>
      <v-btn v-if="session.mayOperate" size="small" @click="seen(call.callId)">Seen to</v-btn>
    </p>
  </section>
</template>

<style scoped>
.help {
  border-bottom: 1px solid var(--oxide);
  padding: 6px 20px;
}
.help p {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  padding: 2px 0;
  color: var(--oxide);
}
</style>
