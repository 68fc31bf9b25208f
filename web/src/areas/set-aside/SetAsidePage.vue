<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ask, type SetAside } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import Sheet from '../../kit/Sheet.vue';
import { useClock } from '../../kit/time.ts';
import { useHome } from '../../shell/home.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { setAsideWords, whatWords } from './words.ts';

const session = useSession();
const live = useLive();
const notices = useNotices();
const trail = useHome();
const { moment } = useClock();
const list = ref<SetAside[] | null>(null);
const chosen = ref<string | null>(null);
const busy = ref(false);

async function load(): Promise<void> {
  try {
    list.value = await ask(api.GET('/api/set-aside'));
  } catch (error) {
    notices.fail(error);
  }
}
watch([() => live.endedCalls, () => live.connected], load, { immediate: true });

const rows = computed(() => (list.value ?? []).map((each) => ({ ...each, id: String(each.id) })));
const open = computed(() => rows.value.find((row) => row.id === chosen.value) ?? null);
const unseen = computed(() => rows.value.filter((row) => !row.seen).length);
const sentence = computed(() => {
  if (list.value === null) return 'Reading the list.';
  if (rows.value.length === 0) return 'Nothing';
  return unseen.value === 0 ? 'All looked at' : `${unseen.value} not looked at yet`;
});
const columns = [
  { key: 'at', title: 'When', width: '150px', time: true as const, mono: true },
  { key: 'kind', title: 'What', width: '220px' },
  { key: 'what', title: 'Why it is here', width: '190px' },
  { key: 'why', title: 'What went wrong' },
  { key: 'seen', title: 'Looked at by', width: '150px' },
];

const sentenceCase = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** The content as sent and kept, easier on the eye. */
function tidy(content: string): string {
  try {
    return JSON.stringify(JSON.parse(content), null, 2);
  } catch {
    return content;
  }
}

async function seen(id: string): Promise<void> {
  busy.value = true;
  try {
    await ask(api.POST('/api/set-aside/{id}/seen', { params: { path: { id: Number(id) } } }));
    chosen.value = null;
    await Promise.all([load(), trail.load()]);
  } catch (error) {
    notices.fail(error);
  } finally {
    busy.value = false;
  }
}

async function copy(content: string): Promise<void> {
  await navigator.clipboard.writeText(content).then(
    () => notices.say('Copied.'),
    () => notices.warn('The browser does not allow copying here. Mark the text and copy it.'),
  );
}
</script>

<template>
  <PageHead title="Set aside" :sentence="sentence" />
  <div class="split">
    <div class="list">
      <LedgerTable
        caption="Set aside"
        :columns="columns"
        :rows="rows"
        :chosen="chosen"
        @choose="chosen = $event.id"
      >
        <template #at="{ row }">{{ moment(row.at) }}</template>
        <template #kind="{ row }">{{ sentenceCase(setAsideWords(row.kind)) }}</template>
        <template #what="{ row }">{{ whatWords[row.what] }}</template>
        <template #why="{ row }">{{ row.why }}</template>
        <template #seen="{ row }">
          <template v-if="row.seen">{{ row.seenBy }}</template>
          <span v-else class="fault-text">nobody yet</span>
        </template>
        <template #empty>
          <EmptyLine
            v-if="list !== null"
            text="The exchange took everything it was given. What it cannot take, write or carry out would be kept here, and its call would end as lost, while all others go on."
          />
        </template>
      </LedgerTable>
    </div>
    <Sheet
      v-if="open !== null"
      :title="sentenceCase(setAsideWords(open.kind))"
      :second="`${whatWords[open.what]}, ${moment(open.at)}`"
      @close="chosen = null"
    >
      <section>
        <dl>
          <dt>What went wrong</dt>
          <dd>{{ open.why }}</dd>
          <dt>Calls that ended as lost</dt>
          <dd v-if="open.callIds.length === 0">none</dd>
          <dd v-for="id in open.callIds" :key="id" class="mono">
            <router-link :to="`/calls/${id}`">{{ id }}</router-link>
          </dd>
          <template v-if="open.seq !== null">
            <dt>Its place in the log</dt>
            <dd class="mono">{{ open.seq }}</dd>
          </template>
        </dl>
        <h3>Kept whole, for whoever mends it</h3>
        <pre class="mono" tabindex="0">{{ tidy(open.content) }}</pre>
        <div class="buttons">
          <v-btn
            v-if="session.mayEdit && !open.seen"
            variant="flat"
            color="primary"
            :loading="busy"
            @click="seen(open.id)"
            >I have looked at it</v-btn
          >
          <v-btn @click="copy(open.content)">Copy</v-btn>
        </div>
      </section>
    </Sheet>
  </div>
</template>

<style scoped>
dt {
  color: var(--ink2);
  margin-top: 8px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
h3 {
  margin: 16px 0 4px;
}
pre {
  max-height: 320px;
  overflow: auto;
  margin: 0 0 12px;
  padding: 8px;
  border: 1px solid var(--rule2);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>
