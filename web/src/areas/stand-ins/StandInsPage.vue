<script setup lang="ts">
import type { HarbourMood } from '@night-bell/core/devices/protocol';
import { onBeforeUnmount, onMounted, ref } from 'vue';
import { api, ApiProblem, ask, type StandInView } from '../../api/client.ts';
import { readPerson } from '../../api/lists.ts';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import StateWord from '../../kit/StateWord.vue';
import ThingField from '../../kit/ThingField.vue';
import { useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import SomebodyTexts from './SomebodyTexts.vue';

const speeds = [0.5, 1, 2, 5, 10, 20];
const lookEvery = 2_000;

const session = useSession();
const live = useLive();
const notices = useNotices();
const { moment } = useClock();
const view = ref<StandInView | null>(null);
const speed = ref(1);
const code = ref('');

let left = false;
async function load(): Promise<void> {
  if (left) return;
  const came = await ask(api.GET('/api/stand-ins')).catch(() => null);
  if (came === null) return;
  view.value = came;
  speed.value = came.traffic.speed;
}

async function traffic(on: boolean, at: number): Promise<void> {
  try {
    await ask(api.PUT('/api/stand-ins/traffic', { body: { on, speed: at } }));
    notices.say(
      on
        ? `Stand-in callers call at ${at} times the usual.`
        : 'Stand-in callers rest. Calls in progress go on.',
    );
  } catch (error) {
    notices.fail(error);
  }
  setTimeout(load, 300);
}

async function mood(how: HarbourMood, said: string): Promise<void> {
  try {
    await ask(api.PUT('/api/stand-ins/harbour-book', { body: { mood: how } }));
    notices.say(said);
  } catch (error) {
    notices.fail(error);
  }
}

const who = ref<string | null>(null);
const digits = ref('');
/** The first of their phones that dials by itself. */
async function accountOf(personId: string): Promise<string> {
  const { item } = await readPerson(personId);
  const phone = item.phones.find(({ account }) => account !== '');
  if (phone === undefined) throw new ApiProblem('notNow', `${item.name} has no phone that dials.`);
  return phone.account;
}
async function dial(): Promise<void> {
  try {
    const to = digits.value.replace(/[\s().-]/g, '');
    await ask(
      api.POST('/api/stand-ins/dialled-calls', { body: { account: await accountOf(who.value!), to } }),
    );
    notices.say(`${digits.value} is dialled.`);
    digits.value = '';
  } catch (error) {
    notices.fail(error);
  }
}

async function enrol(): Promise<void> {
  try {
    await ask(api.POST('/api/stand-ins/enrolments', { body: { code: code.value } }));
    notices.say('Handed over. If the code is good, a phone registers in a moment.');
    code.value = '';
  } catch (error) {
    notices.fail(error);
  }
}

let timer: ReturnType<typeof setInterval> | null = null;
onMounted(() => {
  void load();
  timer = setInterval(load, lookEvery);
});
onBeforeUnmount(() => {
  left = true;
  if (timer !== null) clearInterval(timer);
});
</script>

<template>
  <PageHead
    title="Stand-ins"
    sentence="Simulated phones, callers, a provider and a customer system. They use the doors that real ones would."
  />
  <div v-if="view" class="body">
    <section>
      <h2>Connection</h2>
      <p>
        <StateWord
          :shape="view.connected ? 'registered' : 'unregistered'"
          :word="view.connected ? 'Connected' : 'Not connected'"
          :tone="view.connected ? undefined : 'fault'"
        />
        <span class="second">{{
          view.connected
            ? `${view.phones} stand-in phones`
            : 'They start with Night Bell and come back by themselves.'
        }}</span>
      </p>
    </section>
    <section>
      <h2>Traffic</h2>
      <p class="line">
        <b>{{ view.traffic.on ? 'Stand-in callers call' : 'Stand-in callers rest' }}</b>
        <template v-if="view.traffic.on">
          at
          <v-select
            :model-value="speed"
            aria-label="Speed"
            :items="speeds.map((value) => ({ value, title: `${value} times` }))"
            :readonly="!session.mayOperate"
            @update:model-value="traffic(true, $event)"
          />
          the usual 90 calls an hour.
          {{ live.calls.size === 1 ? '1 call is' : `${live.calls.size} calls are` }} in progress.
        </template>
      </p>
      <v-btn
        v-if="session.mayOperate"
        :disabled="!view.connected"
        :variant="view.traffic.on ? 'outlined' : 'flat'"
        :color="view.traffic.on ? undefined : 'primary'"
        @click="traffic(!view.traffic.on, speed)"
      >
        {{ view.traffic.on ? 'Let them rest' : 'Let them call' }}
      </v-btn>
      <p class="second small">
        Numbers are called in the shares in which they were called last week; each caller has a patience of
        their own.
      </p>
    </section>
    <section>
      <h2>Mailbox</h2>
      <p class="second">
        The stand-in post office takes letters by SMTP and sends them nowhere. They are read here.
      </p>
      <p v-if="view.letters.length === 0" class="second">No letter yet.</p>
      <details v-for="(letter, index) in view.letters" :key="index">
        <summary>
          <span class="mono second">{{ moment(letter.at) }}</span> {{ letter.subject }}
          <span class="second">to {{ letter.to }}</span>
        </summary>
        <p class="letter">{{ letter.text }}</p>
      </details>
      <p v-if="view.lamps.length > 0" class="lamps">
        <Shape name="messageNew" /> Waiting lamps lit on
        {{ view.lamps.map(({ account, newMessages }) => `${account} (${newMessages})`).join(', ') }}
      </p>
    </section>
    <section v-if="session.mayOperate && session.view?.installation.demo">
      <h2>Harbour Book</h2>
      <p class="second">
        The stand-in customer system. Have it misbehave, and see that no call waits for it.
      </p>
      <p class="line">
        <v-btn @click="mood('well', 'Harbour Book answers well.')">Answer well</v-btn>
        <v-btn @click="mood('slow', 'Harbour Book takes longer than anybody waits.')"
          >Answer too slowly</v-btn
        >
        <v-btn @click="mood('broken', 'Harbour Book answers with errors.')">Break down</v-btn>
        <v-btn @click="mood('hung', 'Harbour Book takes requests and never answers.')">Never answer</v-btn>
        <v-btn @click="mood('huge', 'Harbour Book answers without end.')">Answer without end</v-btn>
      </p>
    </section>
    <section v-if="session.mayOperate">
      <h2>Somebody dials</h2>
      <form class="line" @submit.prevent="dial">
        <ThingField v-model="who" label="Whose phone" :kinds="['person']" placeholder="Whose phone" />
        <input v-model="digits" class="mono digits" aria-label="Dialled" placeholder="Number or extension" />
        <v-btn type="submit" :disabled="!who || digits.trim() === ''">Dial</v-btn>
      </form>
      <p class="second small">
        The phone dials as in its person’s hand: an extension rings inside, anything else goes out by the
        dialling rules, an emergency number always.
      </p>
    </section>
    <SomebodyTexts v-if="session.mayOperate" />
    <section>
      <h2>Front desk</h2>
      <p v-if="view.frontDesk.length === 0" class="second">
        Told of every emergency call, with where help is needed. Nothing so far.
      </p>
      <ul v-else>
        <li v-for="(notice, index) in view.frontDesk" :key="index">{{ notice }}</li>
      </ul>
    </section>
    <section v-if="session.mayEdit">
      <h2>A phone enrols</h2>
      <form class="line" @submit.prevent="enrol">
        <input
          v-model="code"
          class="mono"
          aria-label="Enrolment code"
          placeholder="Enrolment code of a person"
        />
        <v-btn type="submit" :disabled="code.trim() === ''">Hand it over</v-btn>
      </form>
      <p class="second small">
        The phone fetches its set-up with the code, keeps its secret in its own store, and registers with it.
      </p>
    </section>
  </div>
</template>

<style scoped>
.letter {
  white-space: pre-line;
  padding: 4px 0 8px 18px;
}
.lamps {
  margin-top: 8px;
}
.body {
  padding: 4px 20px;
  overflow: auto;
}
section {
  padding: 16px 0;
  border-bottom: 1px solid var(--rule);
  max-width: 720px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  align-items: flex-start;
}
.body :deep(section p) {
  display: flex;
  gap: 12px;
}
.body :deep(.line) {
  display: flex;
  align-items: center;
  gap: 8px;
}
.body :deep(.line .v-select) {
  width: 108px;
}
li {
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
.body :deep(.line .v-autocomplete) {
  width: 240px;
}
.body :deep(.digits) {
  width: 180px;
}
.body :deep(form > input) {
  width: 280px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 26px;
}
.body :deep(form > .said) {
  width: 220px;
}
.body :deep(form > .digits) {
  width: 160px;
}
</style>
