<script setup lang="ts">
import QRCode from 'qrcode';
import { computed, ref, watch } from 'vue';
import { api, ask, type Phone, type PhoneSecret } from '../../api/client.ts';
import SecretLine from '../../kit/SecretLine.vue';
import { saveFile } from '../../kit/table-file.ts';
import { useNotices } from '../../shell/notices.ts';
import { setUpFile } from './words.ts';

/** A set-up just made, shown this once: a code, a link and a picture of it, or a file for entry by hand. */
const props = defineProps<{ phone: Phone; secret: PhoneSecret; registered: boolean }>();
const emit = defineEmits<{ away: [] }>();
const notices = useNotices();
const picture = ref('');

// Behind the hash the code stays out of every log on the way.
const link = computed(() => `${location.origin}/enrol#${props.secret.enrolmentCode}`);
watch(
  link,
  async (text) => {
    picture.value = await QRCode.toDataURL(text, { margin: 1, width: 132 });
  },
  { immediate: true },
);

function save(): void {
  saveFile(`${props.secret.account}.txt`, setUpFile(props.phone, props.secret), 'text/plain;charset=utf-8');
}

async function handOver(): Promise<void> {
  try {
    await ask(api.POST('/api/stand-ins/enrolments', { body: { code: props.secret.enrolmentCode } }));
    notices.say('Handed over. The phone fetches its set-up and registers.');
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <section class="set-up">
    <h3>The set-up, shown this once</h3>
    <div class="two">
      <img :src="picture" width="132" height="132" alt="The enrolment link as a QR code" />
      <p>
        Send the link, or let the phone's camera read it. It asks only for what is missing and works once
        within 14 days.
        <a :href="link" target="_blank" rel="noopener">Open it here</a>
      </p>
    </div>
    <SecretLine label="Link" :value="link" taker="For the person at the phone" />
    <SecretLine label="Code" :value="secret.enrolmentCode" taker="Typed into a phone that asks for one" />
    <SecretLine
      label="Secret"
      :value="secret.registrationSecret"
      :taker="`For a phone set up by hand: account ${secret.account}, server night-bell, ${phone.transport.toUpperCase()}`"
    />
    <div class="buttons">
      <v-btn @click="save">Save as a plain file</v-btn>
      <v-btn v-if="!registered" @click="handOver">Hand to a stand-in phone</v-btn>
      <v-btn @click="emit('away')">Hide it</v-btn>
    </div>
  </section>
</template>

<style scoped>
.set-up {
  background: var(--wash);
}
.two {
  display: grid;
  grid-template-columns: 132px 1fr;
  gap: 14px;
  margin: 6px 0 8px;
}
img {
  background: #fff;
}
</style>
