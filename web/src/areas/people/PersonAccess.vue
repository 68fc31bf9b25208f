<script setup lang="ts">
import { ref, watch } from 'vue';
import { api, ask, type Person, type PersonAccess } from '../../api/client.ts';
import { span } from '@night-bell/core/story/span';
import { useClock } from '../../kit/time.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

/** How somebody gets in, and where they are in. */
const props = defineProps<{ person: Person }>();
const emit = defineEmits<{ code: [code: string] }>();
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
const access = ref<PersonAccess | null>(null);
const path = () => ({ params: { path: { id: props.person.id } } });

async function load(): Promise<void> {
  access.value = await ask(api.GET('/api/people/{id}/access', path())).catch(() => null);
}
watch(() => props.person.id, load, { immediate: true });

async function act(work: () => Promise<unknown>, said: string): Promise<void> {
  try {
    await work();
    notices.say(said);
  } catch (error) {
    notices.fail(error);
  }
  await load();
}
const end = () =>
  act(
    () => ask(api.DELETE('/api/people/{id}/sign-ins', path())),
    `${props.person.name} is signed out everywhere.`,
  );
const unlock = () =>
  act(() => ask(api.POST('/api/people/{id}/unlock', path())), `${props.person.name} may try again.`);
const code = () =>
  act(async () => {
    const { signInCode } = await ask(api.POST('/api/people/{id}/code', path()));
    emit('code', signInCode);
  }, 'The old password and all sign-ins of this person have ended.');
</script>

<template>
  <section>
    <h3>Getting in</h3>
    <p>
      Signs in as <span class="mono">{{ person.login }}</span>{{
        person.hasOwnPassword ? ', with a password of their own.' : '. No password of their own yet.'
      }}
    </p>
    <p v-if="access && access.lockedSeconds > 0" class="fault-text">
      Too many wrong guesses: kept out for {{ span(access.lockedSeconds * 1000) }} more.
    </p>
    <div v-if="session.mayEdit && !person.retired" class="buttons">
      <v-btn v-if="access && access.lockedSeconds > 0" @click="unlock">Let them try again</v-btn>
      <v-btn @click="code">New sign-in code</v-btn>
    </div>
  </section>
  <section>
    <h3>Signed in at</h3>
    <p v-if="access === null" class="second">Reading.</p>
    <p v-else-if="access.signIns.length === 0" class="second">Nowhere.</p>
    <ul v-else>
      <li v-for="place in access.signIns" :key="place.since">
        <span>{{ place.browser || 'A program' }}</span>
        <span class="mono second">{{ place.address }}</span>
        <span class="second small">since {{ moment(Date.parse(place.since)) }}</span>
      </li>
    </ul>
    <div v-if="session.mayEdit && access && access.signIns.length > 0" class="buttons">
      <v-btn @click="end">End all sign-ins</v-btn>
    </div>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 10px;
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
</style>
