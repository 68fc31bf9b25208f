<script setup lang="ts">
import { money } from '../../kit/money.ts';
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { readAmount } from '@night-bell/core/model/amount';
import {
  api,
  ApiProblem,
  ask,
  type Balance,
  type ShopCountry,
  type ShopHold,
  type ShopOffer,
} from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import TakeOut from '../../kit/TakeOut.vue';

/** Find, hold, rent. What is held counts down; the countdown is the shop's, not this page's. */
const emit = defineEmits<{ close: []; rented: [ids: string[]] }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const notices = useNotices();

const countries = ref<ShopCountry[]>([]);
const country = ref('US');
const kind = ref<'local' | 'tollFree'>('local');
const area = ref('');
const place = ref('');
const text = ref(false);
const offers = ref<ShopOffer[] | null>(null);
const holds = ref<ShopHold[]>([]);
const balance = ref<Balance | null>(null);
const marked = ref<ReadonlySet<string>>(new Set());
const fault = ref('');
const busy = ref(false);

const here = computed(() => countries.value.find((each) => each.code === country.value));
const kinds = computed(() =>
  (here.value?.kinds ?? []).map((each) => ({
    value: each.kind,
    title: each.kind === 'local' ? 'local' : 'toll-free',
    text: each.text,
  })),
);
/** What cannot be had is said before anybody asks for it. */
const cannot = computed(() => {
  if (here.value === undefined) return '';
  if (here.value.nothingBecause !== null)
    return `Nothing in ${here.value.name}: ${here.value.nothingBecause}`;
  const chosen = kinds.value.find((each) => each.value === kind.value);
  if (chosen === undefined)
    return `${here.value.name} has no ${kind.value === 'local' ? 'local' : 'toll-free'} numbers here.`;
  return text.value && !chosen.text ? `No ${chosen.title} number can text.` : '';
});

void ask(api.GET('/api/number-shop/countries'))
  .then((answer) => (countries.value = answer))
  .catch(notices.fail);

async function lookAtHolds(): Promise<void> {
  holds.value = await ask(api.GET('/api/number-shop/holds')).catch(() => holds.value);
  balance.value = await ask(api.GET('/api/balance')).catch(() => balance.value);
}
void lookAtHolds();

let asked = 0;
async function find(): Promise<void> {
  const turn = ++asked;
  fault.value = '';
  marked.value = new Set();
  if (cannot.value !== '' || here.value === undefined) return void (offers.value = []);
  const query = {
    country: country.value,
    kind: kind.value,
    ...(area.value === '' ? {} : { area: area.value }),
    ...(place.value === '' ? {} : { place: place.value }),
    ...(text.value ? { text: true } : {}),
  };
  try {
    const found = await ask(api.GET('/api/number-shop/numbers', { params: { query } }));
    if (turn === asked) offers.value = found;
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    if (turn === asked) [offers.value, fault.value] = [[], error.detail];
  }
}
watch([country, kind, area, place, text, countries], find, { immediate: true });
watch(country, () => {
  if (!kinds.value.some((each) => each.value === kind.value)) kind.value = kinds.value[0]?.value ?? 'local';
});

const rows = computed(() => (offers.value ?? []).map((offer) => ({ ...offer, id: offer.number })));
const held = computed(() => holds.value.filter((each) => Date.parse(each.until) > live.now));
const price = computed(() => held.value.reduce((sum, { offer }) => sum + readAmount(offer.monthly)!, 0n));
const poor = computed(() => balance.value !== null && readAmount(balance.value.balance)! < price.value);

async function act(work: () => Promise<unknown>): Promise<boolean> {
  busy.value = true;
  let done = false;
  try {
    await work();
    done = true;
  } catch (error) {
    notices.fail(error);
  } finally {
    busy.value = false;
  }
  await lookAtHolds();
  await find();
  return done;
}
const hold = (numbers: string[]) => act(() => ask(api.POST('/api/number-shop/holds', { body: { numbers } })));
const release = (numbers: string[]) =>
  act(() => ask(api.DELETE('/api/number-shop/holds', { body: { numbers } })));

async function rent(): Promise<void> {
  const numbers = held.value.map((each) => each.number);
  let ids: string[] = [];
  const done = await act(async () => {
    ids = (await ask(api.POST('/api/number-shop/rentals', { body: { numbers } }))).ids;
  });
  if (!done) return;
  await setUp.load();
  notices.say(
    `${numbers.length === 1 ? 'The number is' : `${numbers.length} numbers are`} ours. Now say where they lead.`,
  );
  emit('rented', ids);
}

const columns = [
  { key: 'number', title: 'Number', width: '170px', mono: true },
  { key: 'place', title: 'Place' },
  { key: 'can', title: 'Can', width: '110px' },
  { key: 'monthly', title: '$ a month', width: '96px', mono: true, right: true },
  { key: 'reports', title: 'Reputation' },
  { key: 'held', title: '', width: '150px' },
];
</script>

<template>
  <div class="shop">
    <div class="sentence">
      In
      <v-select
        v-model="country"
        aria-label="Country"
        :items="countries"
        item-value="code"
        item-title="name"
      />
      a
      <v-select v-model="kind" class="short" aria-label="Kind" :items="kinds" />
      number in
      <v-text-field v-model="place" aria-label="City" placeholder="any city" />
      of area
      <v-text-field v-model="area" class="short mono" aria-label="Area code" placeholder="any" />
      <v-checkbox v-model="text" label="that can text" />
      <v-btn class="done" @click="emit('close')">Done</v-btn>
    </div>
    <p v-if="cannot || fault" class="say fault-text" role="alert">
      <Shape name="fault" /> {{ cannot || fault }}
    </p>
    <div v-if="held.length > 0" class="held" aria-label="Held for us">
      <b>Held for us</b>
      <span v-for="each in held" :key="each.number" class="one">
        <span class="mono">{{ formatNumber(each.number) }}</span>
        <span class="mono second">{{ span(Date.parse(each.until) - live.now) }}</span>
        <TakeOut v-if="session.mayEdit" :what="`Let ${each.number} go`" @click="release([each.number])" />
      </span>
      <span class="pay">
        <span :class="poor ? 'fault-text' : 'second'">
          {{ money(price) }} for the first month, balance {{ balance ? money(balance.balance) : '…' }}
        </span>
        <v-btn
          v-if="session.mayEdit"
          variant="flat"
          color="primary"
          class="small-button"
          :loading="busy"
          :disabled="poor"
          @click="rent"
          >Rent {{ held.length === 1 ? 'it' : `all ${held.length}` }}</v-btn
        >
      </span>
    </div>
    <div v-if="marked.size > 0" class="held">
      <b class="mono">{{ marked.size }}</b> marked
      <v-btn class="small-button" :loading="busy" @click="hold([...marked])">Hold them for ten minutes</v-btn>
    </div>
    <LedgerTable
      v-model:marked="marked"
      caption="Numbers in stock"
      :columns="columns"
      :rows="rows"
      :markable="session.mayEdit"
    >
      <template #number="{ row }">{{ formatNumber(row.number) }}</template>
      <template #can="{ row }">{{ row.text ? 'voice, text' : 'voice' }}</template>
      <template #reports="{ row }">
        <span v-if="row.reports.length === 0" class="second">clean</span>
        <span v-else class="fault-text"
          ><Shape name="fault" /> reported by
          {{ row.reports.map((report) => `${report.by}, ${report.on}`).join('; ') }}</span
        >
      </template>
      <template #held="{ row }">
        <span v-if="row.held === 'other'" class="second">held by somebody else</span>
        <span v-else-if="row.held === 'you'" class="second">held for us</span>
        <button v-else-if="session.mayEdit" class="link" type="button" @click.stop="hold([row.number])">
          Hold
        </button>
      </template>
      <template #empty>
        <EmptyLine
          v-if="offers !== null && cannot === '' && fault === ''"
          text="Nothing in stock fits this sentence. Widen one of its fields."
        />
      </template>
    </LedgerTable>
  </div>
</template>

<style scoped>
.shop {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.sentence,
.held {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
  padding: 5px 20px;
  border-bottom: 1px solid var(--rule);
}
.sentence :deep(.v-select),
.sentence :deep(.v-text-field) {
  flex: 0 0 132px;
}
.sentence :deep(.short) {
  flex: 0 0 92px;
}
.done {
  margin-left: auto;
}
.say {
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
}
.held {
  background: var(--wash);
  gap: 4px 14px;
}
.one {
  display: flex;
  gap: 8px;
  align-items: center;
}
.pay {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-left: auto;
}
</style>
