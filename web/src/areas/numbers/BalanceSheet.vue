<script setup lang="ts">
import { money } from '../../kit/money.ts';
import { ref } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ApiProblem, ask, type Balance } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import type { Figures } from '../../kit/chart.ts';
import type { Stretch } from '../../kit/days.ts';
import StretchChart from '../../kit/StretchChart.vue';
import Sheet from '../../kit/Sheet.vue';
import { useClock } from '../../kit/time.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { balanceFigures } from './balance.ts';

/** The prepaid balance: what came in, what rent and calls took. */
const emit = defineEmits<{ close: []; changed: [balance: Balance] }>();
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
const view = ref<Balance | null>(null);
const amount = ref('50');
const low = ref('');
const fault = ref('');
const lowFault = ref('');
const busy = ref(false);

function take(now: Balance): void {
  view.value = now;
  low.value = now.low;
  emit('changed', now);
}
void ask(api.GET('/api/balance')).then(take).catch(notices.fail);

async function payIn(): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    take(await ask(api.POST('/api/balance/top-ups', { body: { amount: amount.value } })));
    notices.say(`${money(amount.value)} paid in.`);
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    fault.value = error.faults['/amount'] ?? error.detail;
  } finally {
    busy.value = false;
  }
}

async function setLow(): Promise<void> {
  lowFault.value = '';
  if (low.value === view.value?.low) return;
  try {
    take(await ask(api.PUT('/api/balance/low', { body: { low: low.value } })));
    notices.say('The trail says so when the balance is lower.');
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    lowFault.value = error.faults['/low'] ?? error.detail;
  }
}

async function more(): Promise<void> {
  const last = view.value?.entries.at(-1)?.id;
  if (last === undefined) return;
  const older = await ask(api.GET('/api/balance', { params: { query: { before: last } } })).catch(() => null);
  if (older !== null && view.value !== null)
    view.value = { ...view.value, entries: [...view.value.entries, ...older.entries] };
}

async function read({ from, to }: Stretch): Promise<Figures | null> {
  const days = await ask(api.GET('/api/balance/days', { params: { query: { from, to } } }));
  return balanceFigures(days, view.value?.low ?? '0');
}

const words = { topUp: 'Paid in', rent: 'Rent', call: 'Call', text: 'Text' } as const;
const shownWhat = (what: string) => what.replace(/\+\d{8,15}/, (number) => formatNumber(number));
</script>

<template>
  <Sheet title="Balance" second="Prepaid: rent, calls and texts draw it down" @close="emit('close')">
    <template v-if="view" #state>
      <b class="mono sum" :class="{ 'fault-text': view.isLow }">{{ money(view.balance) }}</b>
    </template>
    <template v-if="view">
      <section v-if="session.mayEdit">
        <form @submit.prevent="payIn">
          <LedgerField
            label="Pay in"
            for="top-up"
            :fault="fault"
            hint="At the stand-in cashier: nothing is really paid."
          >
            <div class="pair">
              <v-text-field id="top-up" v-model="amount" class="mono" />
              <v-btn type="submit" variant="flat" color="primary" :loading="busy">Pay in</v-btn>
            </div>
          </LedgerField>
          <LedgerField label="Low below" for="low" :fault="lowFault">
            <v-text-field
              id="low"
              v-model="low"
              class="mono"
              @blur="setLow"
              @keydown.enter.prevent="setLow"
            />
          </LedgerField>
        </form>
      </section>
      <section>
        <StretchChart
          :read="read"
          :of="view.balance + view.low"
          label="Days of the balance"
          none="Nothing moved on these days."
        />
      </section>
      <section>
        <h3>Movements</h3>
        <p v-if="view.entries.length === 0" class="second">Nothing has moved yet.</p>
        <ul>
          <li v-for="entry in view.entries" :key="entry.id">
            <span class="second small">{{ moment(Date.parse(entry.at)) }}</span>
            <span>
              <router-link v-if="entry.callId" class="plain" :to="`/calls/${entry.callId}`">{{
                words[entry.kind]
              }}</router-link>
              <template v-else>{{ words[entry.kind] }}</template>
              <span class="second small what"
                >{{ shownWhat(entry.what) }}{{ entry.by ? `, ${entry.by}` : '' }}</span
              >
            </span>
            <span class="mono right">{{ money(entry.amount) }}</span>
          </li>
        </ul>
        <div v-if="view.entries.length % 200 === 0 && view.entries.length > 0" class="buttons">
          <v-btn @click="more">Older</v-btn>
        </div>
      </section>
    </template>
  </Sheet>
</template>

<style scoped>
.sum {
  font-size: 15px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
}
li {
  display: grid;
  grid-template-columns: 76px 1fr auto;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
.what {
  display: block;
}
</style>
