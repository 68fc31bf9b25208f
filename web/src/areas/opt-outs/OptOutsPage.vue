<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ApiProblem, ask, type OptOut } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import SaveList from '../../kit/SaveList.vue';
import { calmly } from '../../kit/calmly.ts';
import { usePages } from '../../shell/pages.ts';
import Sheet from '../../kit/Sheet.vue';
import Shape from '../../kit/Shape.vue';
import { FileFault, readText } from '../../kit/text-file.ts';
import { useClock } from '../../kit/time.ts';
import { useAddress } from '../../shell/address.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

const session = useSession();
const live = useLive();
const notices = useNotices();
const { moment } = useClock();
const find = useAddress().part('holds');
const asked = computed(() => ({ search: find.value }));
const adding = ref(false);
const text = ref('');
const fault = ref('');
const left = ref<{ line: number; detail: string }[]>([]);
const busy = ref(false);

const {
  rows: optOuts,
  total,
  failed,
  more,
  load,
} = usePages<OptOut & { id: string }>('optOut', '/api/opt-outs', () => asked.value);
watch(
  () => live.endedCalls,
  calmly(() => void load(), 2_000),
);

const rows = computed(() => (optOuts.value ?? []).map((each) => ({ ...each, id: each.e164 })));
const howWords: Record<string, string> = {
  key: 'pressed the key',
  desk: 'said so to the agent',
  import: 'brought as a list',
  list: 'entered here',
  text: 'texted STOP or the like',
};
const columns = [
  { key: 'number', title: 'Number', width: '170px', mono: true },
  { key: 'how', title: 'How', width: '190px' },
  { key: 'by', title: 'By', width: '180px' },
  { key: 'campaign', title: 'Campaign' },
  { key: 'at', title: 'Since', width: '150px', time: true as const, mono: true },
];
const look = useListLook('opt-outs', () => columns);

async function read(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (file === undefined) return;
  fault.value = '';
  try {
    text.value = await readText(file);
  } catch (error) {
    fault.value = error instanceof FileFault ? error.message : 'This file cannot be read.';
  }
}

async function add(): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    const answer = await ask(api.POST('/api/opt-outs', { body: { text: text.value } }));
    left.value = answer.faults;
    notices.say(
      `${answer.added} added${answer.already > 0 ? `, ${answer.already} were on the list already` : ''}.`,
    );
    if (answer.faults.length === 0) close();
    await load();
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  } finally {
    busy.value = false;
  }
}

function open(): void {
  if (session.mayOperate) adding.value = true;
}
function close(): void {
  adding.value = false;
  text.value = '';
  left.value = [];
}
useKeys({ n: open });
</script>

<template>
  <PageHead
    title="Opt-outs"
    :sentence="
      total === null
        ? 'Reading the list.'
        : `${total.toLocaleString(locale)} numbers ${find === '' ? 'that no campaign ever calls again' : 'hold these digits'}`
    "
  >
    <ViewMenu :look="look" />
    <SaveList list="optOuts" :asked="asked" />
    <v-btn v-if="session.mayOperate" variant="flat" color="primary" @click="open"
      >Add numbers<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <div class="list">
      <Narrowing>
        Show numbers that hold
        <input v-model="find" class="mono" type="text" placeholder="any digits" aria-label="Digits" />
      </Narrowing>
      <LedgerTable caption="Opt-outs" :columns="look.shown.value" :rows="rows" :total="total" @end="more">
        <template #number="{ row }">{{ formatNumber(row.e164) }}</template>
        <template #how="{ row }">
          <router-link v-if="row.callId" class="plain" :to="`/calls/${row.callId}`">{{
            howWords[row.how]
          }}</router-link>
          <template v-else>{{ howWords[row.how] }}</template>
        </template>
        <template #by="{ row }">{{ row.by }}</template>
        <template #campaign="{ row }">{{ row.campaignName }}</template>
        <template #at="{ row }">{{ moment(row.at) }}</template>
        <template #empty>
          <EmptyLine v-if="failed" text="The list could not be read.">
            <v-btn @click="load()">Read it again</v-btn>
          </EmptyLine>
          <EmptyLine
            v-else-if="optOuts !== null"
            :text="
              find === ''
                ? 'Nobody has opted out yet. Numbers come here by the key in a call, from the desk, or by a list.'
                : 'No number on the list holds these digits.'
            "
          />
        </template>
      </LedgerTable>
    </div>
    <Sheet v-if="adding" fresh title="Add numbers" second="Nobody takes them off again" @close="close">
      <form @submit.prevent="add">
        <section>
          <label for="opt-out-text">One number a line, typed, pasted or from a file</label>
          <textarea
            id="opt-out-text"
            v-model="text"
            rows="10"
            class="mono"
            placeholder="+1 360 555 0117"
          ></textarea>
          <input type="file" accept=".csv,.txt,.xlsx,text/*" aria-label="File with numbers" @change="read" />
          <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
          <ul v-if="left.length > 0" class="small">
            <li v-for="each in left" :key="each.line" class="fault-text">
              Line {{ each.line }}: {{ each.detail }}
            </li>
          </ul>
          <div class="buttons">
            <v-btn type="submit" variant="flat" color="primary" :loading="busy">Never call these again</v-btn>
            <v-btn @click="close">Leave it</v-btn>
          </div>
        </section>
      </form>
    </Sheet>
  </div>
</template>

<style scoped>
textarea {
  width: 100%;
  margin: 6px 0 8px;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 6px 8px;
  resize: vertical;
}
</style>
