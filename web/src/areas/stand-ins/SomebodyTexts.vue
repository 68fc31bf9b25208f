<script setup lang="ts">
import { computed, ref } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { longestText } from '@night-bell/core/model/texts';
import { api, ask } from '../../api/client.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** Somebody outside texts one of our numbers, by the door of the provider. */
const setUp = useSetUp();
const notices = useNotices();
const to = ref<string | null>(null);
const from = ref('+1 360 555 0117');
const body = ref('');

const numbers = computed(() =>
  (setUp.numbers ?? [])
    .map((number) => ({
      value: number.e164,
      title: `${formatNumber(number.e164)}, ${number.label}`,
      props: { subtitle: number.textsName === null ? 'takes no texts' : `read by ${number.textsName}` },
    }))
    .sort(
      (one, other) =>
        Number(other.props.subtitle !== 'takes no texts') - Number(one.props.subtitle !== 'takes no texts'),
    ),
);

async function text(): Promise<void> {
  try {
    await ask(
      api.POST('/api/stand-ins/texts', { body: { to: to.value!, from: from.value, body: body.value } }),
    );
    notices.say(`Texted to ${formatNumber(to.value!)}.`);
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
      <v-autocomplete
        v-model="to"
        :items="numbers"
        aria-label="Which number of ours"
        placeholder="Which number of ours"
        auto-select-first
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
