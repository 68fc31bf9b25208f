<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ApiProblem, ask, type DeskCallView } from '../../api/client.ts';
import RecordCard from '../../kit/RecordCard.vue';
import Shape from '../../kit/Shape.vue';
import { useNotices } from '../../shell/notices.ts';

/** What the call is for: script, record, source; and how it ended, once the agent says so. */
const props = defineProps<{ callId: string; over: boolean }>();
const emit = defineEmits<{ finished: [] }>();
const notices = useNotices();
const view = ref<DeskCallView | null>(null);
const problem = ref('');
const outcome = ref<string | null>(null);
const note = ref('');
const fault = ref('');
const busy = ref(false);
const asking = ref(false);
const params = computed(() => ({ path: { id: props.callId } }));

watch(
  () => props.callId,
  async () => {
    try {
      view.value = await ask(api.GET('/api/desk/calls/{id}', { params: params.value }));
      outcome.value = view.value.given?.outcome ?? null;
      note.value = view.value.given?.note ?? '';
    } catch (error) {
      problem.value = error instanceof ApiProblem ? error.detail : 'This call cannot be shown.';
    }
  },
  { immediate: true },
);

const about = computed(() => {
  const now = view.value;
  if (now === null) return '';
  return [now.campaignName ?? now.queueName, now.sourceName === null ? null : `came by ${now.sourceName}`]
    .filter(Boolean)
    .join(', ');
});
/** Own fields of a contact that the record does not tell. */
const fields = computed(() =>
  Object.entries(view.value?.fields ?? {}).filter(
    ([key]) => !['phone', 'name', 'first_name', 'last_name'].includes(key) && view.value?.record == null,
  ),
);

async function save(): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    const body = { outcome: outcome.value, note: note.value };
    await ask(api.PUT('/api/desk/calls/{id}/outcome', { params: params.value, body }));
    notices.say(outcome.value === null ? 'The note is kept.' : `${outcome.value}. Kept.`);
    if (props.over) emit('finished');
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  } finally {
    busy.value = false;
  }
}

async function optOut(): Promise<void> {
  asking.value = false;
  try {
    await ask(api.POST('/api/desk/calls/{id}/opt-out', { params: params.value }));
    notices.say('On the opt-out list: no campaign ever calls this number again.');
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <p v-if="problem" class="problem">{{ problem }}</p>
  <div v-else-if="view" class="call">
    <div>
      <section>
        <header>
          <h2>Script</h2>
          <span class="second">{{ about }}</span>
        </header>
        <p v-if="view.script" class="script">{{ view.script }}</p>
        <p v-else class="second">No script. A supervisor can write one for this queue or campaign.</p>
      </section>
      <section>
        <h2>How it ended</h2>
        <div class="outcomes" role="radiogroup" aria-label="Outcome">
          <button
            v-for="each in view.outcomes"
            :key="each.name"
            type="button"
            role="radio"
            :aria-checked="outcome === each.name"
            :class="{ chosen: outcome === each.name }"
            @click="outcome = each.name"
          >
            {{ each.name }}
          </button>
        </div>
        <textarea v-model="note" rows="3" aria-label="Note" placeholder="A note, for the record"></textarea>
        <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
        <div class="buttons">
          <v-btn variant="flat" color="primary" :loading="busy" @click="save">{{
            over ? 'Save and go on' : 'Save'
          }}</v-btn>
          <v-btn v-if="!asking" @click="asking = true">Opt this number out</v-btn>
          <template v-else>
            <span>Nobody takes this back.</span>
            <v-btn @click="optOut">Put on the opt-out list</v-btn>
            <v-btn @click="asking = false">Leave it</v-btn>
          </template>
        </div>
      </section>
    </div>
    <section class="record">
      <h2>{{ view.record ? view.record.name : 'Nobody known by this number' }}</h2>
      <RecordCard v-if="view.record" :record="view.record" />
      <dl v-if="fields.length > 0">
        <template v-for="[key, value] in fields" :key="key">
          <dt>{{ key.replace(/_/g, ' ') }}</dt>
          <dd>{{ value }}</dd>
        </template>
      </dl>
    </section>
  </div>
</template>

<style scoped>
.call {
  display: grid;
  grid-template-columns: 1fr 300px;
}
section {
  padding: 14px 20px;
  border-bottom: 1px solid var(--rule);
}
header {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding-bottom: 8px;
}
.script {
  white-space: pre-wrap;
  font: 15px/24px var(--sans);
}
.outcomes {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 8px 0;
}
.outcomes button {
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 4px 10px;
  cursor: pointer;
  font: 13px/18px var(--sans);
}
.outcomes .chosen {
  background: var(--sel);
  border-color: var(--brass);
  font-weight: 600;
}
textarea {
  width: 100%;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 6px 8px;
  font: 13px/18px var(--sans);
  resize: vertical;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
.record {
  border-left: 1px solid var(--rule);
}
.record h2 {
  padding-bottom: 6px;
}
dl {
  display: grid;
  grid-template-columns: 116px 1fr;
}
dt,
dd {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
dt {
  color: var(--ink2);
}
.problem {
  padding: 20px;
}
@media (max-width: 1240px) {
  .call {
    grid-template-columns: 1fr 240px;
  }
}
</style>
