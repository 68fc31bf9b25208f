<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { longestText } from '@night-bell/core/model/texts';
import { textParts } from '@night-bell/core/texts/parts';
import { api, ApiProblem, ask, type Text } from '../../api/client.ts';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';

/** Texts by who is on the other side, latest first: of one number, or of those one is to read; and what is written back. */
const props = defineProps<{ numberId?: string; mayWrite: boolean }>();
const live = useLive();
const { moment } = useClock();
const texts = ref<Text[] | null>(null);
const open = ref<string | null>(null);
const starting = ref(false);
const to = ref('');
const body = ref('');
const fault = ref('');
const busy = ref(false);
const all = ref(false);
const fewThreads = 6;

async function load(): Promise<void> {
  const query = props.numberId === undefined ? { mine: true } : { numberId: props.numberId };
  texts.value = await ask(api.GET('/api/texts', { params: { query } })).catch(() => texts.value);
}
watch([() => props.numberId, () => live.textChanges], load, { immediate: true });

interface Thread {
  key: string;
  latest: Text;
  texts: Text[];
}
const threads = computed(() => {
  const byKey = new Map<string, Thread>();
  for (const text of texts.value ?? []) {
    const key = `${text.numberId} ${text.other}`;
    const thread = byKey.get(key);
    if (thread === undefined) byKey.set(key, { key, latest: text, texts: [text] });
    else thread.texts.unshift(text);
  }
  return [...byKey.values()];
});
/** Beside other things a few will do at first. */
const shown = computed(() =>
  all.value || props.numberId !== undefined ? threads.value : threads.value.slice(0, fewThreads),
);
const parts = computed(() => textParts(body.value));
const room = computed(() => {
  const { units, parts: count } = parts.value;
  if (units === 0) return '';
  return count === 1 ? '1 part' : `${count} parts, each charged`;
});

function show(key: string): void {
  starting.value = false;
  open.value = open.value === key ? null : key;
  body.value = '';
  fault.value = '';
}
function start(): void {
  open.value = null;
  starting.value = true;
  body.value = '';
  fault.value = '';
}

async function send(numberId: string, other: string): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    await ask(api.POST('/api/texts', { body: { numberId, to: other, body: body.value } }));
    body.value = '';
    if (starting.value) {
      starting.value = false;
      to.value = '';
    }
    await load();
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    fault.value = Object.values(error.faults)[0] ?? error.detail;
  } finally {
    busy.value = false;
  }
}

const stateWords = { waiting: 'on its way', failed: 'not sent' } as const;
const about = (text: Text) => (text.direction === 'in' ? '' : `${text.by ?? 'We'}: `);
</script>

<template>
  <div class="texts">
    <p v-if="texts !== null && threads.length === 0" class="second">No texts yet.</p>
    <ul>
      <li v-for="thread in shown" :key="thread.key">
        <button class="list-row" type="button" :aria-expanded="open === thread.key" @click="show(thread.key)">
          <b>{{ thread.latest.name ?? formatNumber(thread.latest.other) }}</b>
          <span class="mono small second">{{ moment(Date.parse(thread.latest.at)) }}</span>
          <span class="last second">{{ about(thread.latest) }}{{ thread.latest.body }}</span>
        </button>
        <div v-if="open === thread.key" class="thread">
          <p v-for="text in thread.texts" :key="text.id" class="text" :class="text.direction">
            <span class="said">{{ text.body }}</span>
            <span class="small second">
              {{ text.direction === 'in' ? '' : `${text.by ?? ''}, ` }}{{ moment(Date.parse(text.at)) }}
              <template v-if="text.state === 'waiting' || text.state === 'failed'">
                <span :class="{ 'fault-text': text.state === 'failed' }">
                  <Shape v-if="text.state === 'failed'" name="fault" />
                  {{ stateWords[text.state] }}{{ text.why ? `: ${text.why}` : '' }}</span
                >
              </template>
            </span>
          </p>
          <p v-if="numberId === undefined" class="small second">
            To {{ formatNumber(thread.latest.number) }}, {{ thread.latest.label }}
          </p>
          <p v-if="thread.latest.optedOut" class="small second">They asked for no more calls and texts.</p>
          <form v-else-if="mayWrite" @submit.prevent="send(thread.latest.numberId, thread.latest.other)">
            <textarea
              v-model="body"
              rows="2"
              :maxlength="longestText"
              :aria-label="`Write back to ${thread.latest.name ?? formatNumber(thread.latest.other)}`"
              placeholder="Write back"
            />
            <p v-if="fault" class="fault-text small" role="alert">{{ fault }}</p>
            <div class="send">
              <span class="small second">{{ room }}</span>
              <v-btn type="submit" class="small-button" :disabled="body.trim() === ''" :loading="busy"
                >Send</v-btn
              >
            </div>
          </form>
        </div>
      </li>
    </ul>
    <button v-if="shown.length < threads.length" class="link" type="button" @click="all = true">
      All {{ threads.length }}
    </button>
    <template v-if="mayWrite && numberId !== undefined">
      <button v-if="!starting" class="link" type="button" @click="start">Text somebody</button>
      <form v-else @submit.prevent="send(numberId!, to)">
        <input v-model="to" class="mono" aria-label="Whom to text" placeholder="+1 360 555 0117" />
        <textarea
          v-model="body"
          rows="2"
          :maxlength="longestText"
          aria-label="What to text"
          placeholder="What to say"
        />
        <p v-if="fault" class="fault-text small" role="alert">{{ fault }}</p>
        <div class="send">
          <span class="small second">{{ room }}</span>
          <v-btn class="small-button" @click="starting = false">Leave it</v-btn>
          <v-btn
            type="submit"
            class="small-button"
            :disabled="body.trim() === '' || to.trim() === ''"
            :loading="busy"
            >Send</v-btn
          >
        </div>
      </form>
    </template>
  </div>
</template>

<style scoped>
.list-row {
  grid-template-columns: minmax(0, 1fr) auto;
}
.last,
.list-row b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.last {
  grid-column: 1 / -1;
}
.thread {
  padding: 8px 0 12px 12px;
  border-bottom: 1px solid var(--rule);
}
.text {
  margin-bottom: 8px;
}
.text.out {
  padding-left: 32px;
}
.said {
  display: block;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.text.out .said {
  border-left: 2px solid var(--brass);
  padding-left: 8px;
}
.text.in .said {
  border-left: 2px solid var(--rule2);
  padding-left: 8px;
}
.text > .second {
  padding-left: 10px;
}
textarea,
input {
  width: 100%;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 4px;
  font: 13px/18px var(--sans);
  resize: vertical;
}
.thread form {
  padding-top: 6px;
}
.send {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: flex-end;
  padding-top: 4px;
}
.send .second {
  flex: 1;
}
</style>
