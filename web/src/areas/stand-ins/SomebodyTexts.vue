<script setup lang="ts">
import { ref } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { longestText } from '@night-bell/core/model/texts';
import { api, ask } from '../../api/client.ts';
import ThingField from '../../kit/ThingField.vue';
import { useNotices } from '../../shell/notices.ts';
import { useDirectory } from '../../shell/directory.ts';

/** Somebody outside texts one of our numbers, by the door of the provider. */
const directory = useDirectory();
const notices = useNotices();
const to = ref<string | null>(null);
const from = ref('+1 360 555 0117');
const body = ref('');

async function text(): Promise<void> {
  try {
    const called = directory.entry(to.value!)!.second!;
    await ask(api.POST('/api/stand-ins/texts', { body: { to: called, from: from.value, body: body.value } }));
    notices.say(`Texted to ${formatNumber(called)}.`);
    body.value = '';
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <section>
    <h2>Somebody texts</h2>
    <form class="line" @submit.prevent="text">
      <ThingField
        v-model="to"
        label="Which number of ours"
        :kinds="['number']"
        placeholder="Which number of ours"
      />
      <input v-model="from" class="mono digits" aria-label="Who texts" placeholder="+1 360 555 0117" />
      <input
        v-model="body"
        class="said"
        aria-label="What they text"
        placeholder="What they say; STOP opts them out"
        :maxlength="longestText"
      />
      <v-btn type="submit" :disabled="!to || body.trim() === ''">Text</v-btn>
    </form>
    <p class="second small">
      The provider asks its price for each part. A number whose texts nobody reads refuses them, and they cost
      nothing.
    </p>
  </section>
</template>
