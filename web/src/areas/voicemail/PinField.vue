<script setup lang="ts">
import { ref } from 'vue';
import type { VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import { send } from '../../api/items.ts';
import { useNotices } from '../../shell/notices.ts';

/** The PIN of a box: set, sent or taken away, never shown. */
const props = defineProps<{ box: VoicemailBoxView }>();
const notices = useNotices();
const pin = ref('');

async function change(body: { pin: string | null; send: boolean }, said: string): Promise<void> {
  try {
    await send('POST', `/api/voicemail-boxes/${props.box.id}/pin`, { body });
    pin.value = '';
    notices.say(said);
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <section>
    <h3>PIN</h3>
    <p class="second">
      {{ box.hasPin ? 'Set. It is shown to nobody.' : 'None: the box cannot be heard from a phone.' }}
    </p>
    <form class="line" @submit.prevent="change({ pin, send: false }, `The PIN of ${box.name} is set.`)">
      <input
        v-model="pin"
        class="mono"
        type="password"
        inputmode="numeric"
        autocomplete="new-password"
        aria-label="New PIN, 4 to 10 digits"
        placeholder="4 to 10 digits"
        maxlength="10"
      />
      <v-btn type="submit" class="small-button" :disabled="!/^\d{4,10}$/.test(pin)">Set</v-btn>
      <v-btn
        class="small-button"
        @click="change({ pin: null, send: true }, `A new PIN is on its way to ${box.mailTo[0] ?? ''}.`)"
        >Send a new one</v-btn
      >
      <v-btn
        v-if="box.hasPin"
        class="small-button"
        @click="change({ pin: null, send: false }, `${box.name} has no PIN any more.`)"
        >Take it away</v-btn
      >
    </form>
  </section>
</template>

<style scoped>
.line {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-top: 6px;
}
input {
  width: 118px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 26px;
}
</style>
