<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ApiProblem, ask, type HomeView } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import NumberField from '../../kit/NumberField.vue';
import Shape from '../../kit/Shape.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useTestCall } from '../../shell/test-call.ts';
import { useFreshCodes } from '../people/fresh-codes.ts';
import { firstCallSteps } from './first-call.ts';

/** From nothing to the first answered call: three steps, the first of them done right here. */
const props = defineProps<{ home: HomeView }>();
const emit = defineEmits<{ made: []; hide: [] }>();
const session = useSession();
const setUp = useSetUp();
const notices = useNotices();
const router = useRouter();
const test = useTestCall();
const codes = useFreshCodes();
const steps = computed(() => firstCallSteps(props.home));
const ringing = computed(() => props.home.ifSomeoneRang[0]?.e164 ?? '');

const number = ref('');
const who = ref<'me' | 'new'>('me');
const name = ref('');
const faults = ref<Record<string, string>>({});
const busy = ref(false);

/** A queue with whoever answers, and the number that leads there. What was made stays if the next is refused. */
let made: { personId?: string; queueId?: string } = {};
async function make(): Promise<void> {
  busy.value = true;
  faults.value = {};
  try {
    made.personId ??= await somebody();
    made.queueId ??= (
      await ask(api.POST('/api/queues', { body: { name: 'First calls', members: [made.personId] } }))
    ).id;
    const body = {
      e164: number.value,
      label: 'Main line',
      destination: { kind: 'queue' as const, id: made.queueId },
    };
    await ask(api.POST('/api/numbers', { body }));
    made = {};
    await setUp.load();
    emit('made');
    notices.say('The number leads to a queue called First calls.');
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    faults.value = error.faults;
    if (Object.keys(error.faults).length === 0) faults.value = { '/e164': error.detail };
  } finally {
    busy.value = false;
  }
}

async function somebody(): Promise<string> {
  if (who.value === 'me') return session.view!.person!.id;
  const person = await ask(api.POST('/api/people', { body: { name: name.value } }));
  codes.keep([person]);
  return person.id;
}

function ring(): void {
  test.show(formatNumber(ringing.value));
}
</script>

<template>
  <section class="first" aria-label="The first call">
    <h2>The first call, in three steps</h2>
    <ol>
      <li>
        <h3><Shape :name="steps.led ? 'done' : 'missing'" /> A number that leads to somebody</h3>
        <p v-if="steps.led" class="second">
          <span class="mono">{{ formatNumber(ringing) }}</span> leads to whoever is signed in.
        </p>
        <form v-else @submit.prevent="make">
          <LedgerField label="Number" for="first-number" :fault="faults['/e164']">
            <NumberField id="first-number" v-model="number" placeholder="+1 206 555 0140" :readonly="false" />
          </LedgerField>
          <LedgerField label="Answered by" for="first-who" :fault="faults['/name']">
            <div class="who">
              <v-select
                id="first-who"
                v-model="who"
                :items="[
                  { value: 'me', title: 'me' },
                  { value: 'new', title: 'somebody new' },
                ]"
              />
              <v-text-field
                v-if="who === 'new'"
                v-model="name"
                aria-label="Their name"
                placeholder="Their name"
              />
            </div>
          </LedgerField>
          <div class="buttons">
            <v-btn
              type="submit"
              variant="flat"
              color="primary"
              :loading="busy"
              :disabled="number.trim() === ''"
              >Make number and queue</v-btn
            >
          </div>
        </form>
      </li>
      <li>
        <h3><Shape :name="steps.staffed ? 'done' : 'missing'" /> Somebody signed in to take calls</h3>
        <p v-if="steps.staffed" class="second">Signed in, with a phone that can ring.</p>
        <template v-else>
          <p class="second">
            At the desk, choose this page as your phone and sign in to take calls. Whoever else answers does
            so with their own login.
          </p>
          <div class="buttons">
            <v-btn :disabled="!steps.led" @click="router.push('/desk')">Go to the desk</v-btn>
          </div>
        </template>
      </li>
      <li>
        <h3><Shape :name="steps.rung ? 'done' : 'missing'" /> A test call that is answered</h3>
        <p class="second">
          The bar at the foot says what would happen, and why. Press <b>Place it live</b> there: a stand-in
          calls and your phone rings. <b>A</b> takes you to the desk, and lifts.
        </p>
        <div class="buttons">
          <v-btn :disabled="!steps.led" @click="ring">Put the number in the bar</v-btn>
          <button class="link" type="button" @click="emit('hide')">I find my own way</button>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.first {
  padding: 14px 20px 18px;
  border-bottom: 1px solid var(--rule2);
  background: var(--wash);
}
ol {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 24px;
  margin-top: 8px;
  padding: 0;
  list-style: none;
}
h3 {
  display: flex;
  gap: 6px;
  align-items: center;
  margin-bottom: 6px;
}
.who {
  display: grid;
  grid-template-columns: 1fr;
  gap: 4px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-top: 8px;
}
@media (max-width: 1100px) {
  ol {
    grid-template-columns: 1fr;
  }
}
</style>
