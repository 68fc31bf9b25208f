<script setup lang="ts">
import { money } from '../../kit/money.ts';
import { computed, ref, watch } from 'vue';
import type { Destination } from '@night-bell/core/model/destination';
import type { TextReader } from '@night-bell/core/model/numbers.schema';
import { placeOf } from '@night-bell/core/numbers/facts';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type HeldNumber, ifMatch, type UsedBy } from '../../api/client.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import DestinationField from '../../kit/DestinationField.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import HistoryList from '../../kit/HistoryList.vue';
import NumberField from '../../kit/NumberField.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Sheet from '../../kit/Sheet.vue';
import UsedByList from '../../kit/UsedByList.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useTestCall } from '../../shell/test-call.ts';
import CallTimes from '../calls/CallTimes.vue';
import SourceField from '../sources/SourceField.vue';
import TextReaderField from '../texts/TextReaderField.vue';
import TextThreads from '../texts/TextThreads.vue';
import PlanBuilder from '../plans/PlanBuilder.vue';
import { numberWords, reportWords, showNumber } from './words.ts';

interface Draft {
  e164: string;
  label: string;
  destination: Destination | null;
  sourceId: string | null;
  textsTo: TextReader | null;
  dialTeams: string[];
  mostCalls: number | null;
  priority: number;
}

const props = defineProps<{ number: HeldNumber | null; users: readonly UsedBy[] }>();
const emit = defineEmits<{ close: []; made: [number: HeldNumber] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const test = useTestCall();
const tab = ref(0);
const show = showNumber(setUp.nameOf);

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    if (props.number === null) {
      const made = await ask(api.POST('/api/numbers', { body: value }));
      await setUp.load();
      notices.say(`${made.label} is entered.`);
      emit('made', made as HeldNumber);
      return;
    }
    const params = { path: { id: props.number.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/numbers/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.label} is saved.`, props.number.id);
  });

function draftOf(number: HeldNumber | null): Draft {
  if (number === null)
    return {
      ...{ e164: '', label: '', destination: null, sourceId: null, textsTo: null },
      ...{ dialTeams: [], mostCalls: null, priority: 0 },
    };
  const { e164, label, destination, sourceId, textsTo, dialTeams, mostCalls, priority } = number;
  return { e164, label, destination, sourceId, textsTo, dialTeams: [...dialTeams], mostCalls, priority };
}

watch(
  () => props.number,
  (number) => {
    if (!changed.value) begin(draftOf(number), number?.version ?? 0);
  },
  { immediate: true },
);

async function giveUp(): Promise<void> {
  try {
    await ask(
      api.POST('/api/numbers/{id}/give-up', {
        params: { path: { id: props.number!.id }, header: ifMatch(props.number!.version) },
      }),
    );
    notices.say(`${props.number!.label} is given up; its calls stay on record.`);
    await setUp.load();
    emit('close');
  } catch (error) {
    notices.fail(error);
  }
}
/** A plan is built right here, published, and the number leads there; then it can be called. */
const building = ref(false);
const planOf = computed(() =>
  draft.value?.destination?.kind === 'plan' ? draft.value.destination.id : null,
);
async function built(id: string): Promise<void> {
  building.value = false;
  if (draft.value === null || props.number === null) return;
  draft.value.destination = { kind: 'plan', id };
  await save();
  test.show(props.number.e164);
}
const asking = ref(false);
const voiceOnly = computed(() => props.number?.rentedAt != null && !props.number.canText);
</script>

<template>
  <Sheet
    :fresh="number === null"
    v-model:tab="tab"
    :title="number === null ? 'New number' : formatNumber(number.e164)"
    :second="number?.label ?? 'Held already, at any provider'"
    :tabs="number === null ? [] : ['Number', 'Texts', 'By time', `Used by ${users.length}`, 'History']"
    @close="emit('close')"
  >
    <template v-if="tab === 0 && draft">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="numberWords"
        :show="show"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Number" for="number-digits" :fault="faults['/e164']">
            <NumberField
              id="number-digits"
              v-model="draft.e164"
              placeholder="+1 206 555 0140"
              :readonly="!session.mayEdit || number !== null"
              :autofocus="number === null"
            />
          </LedgerField>
          <LedgerField
            label="Label"
            for="number-label"
            :fault="faults['/label']"
            hint="For yourselves only; callers never see it."
          >
            <v-text-field
              id="number-label"
              v-model="draft.label"
              :readonly="!session.mayEdit"
              autocomplete="off"
            />
          </LedgerField>
          <LedgerField label="Leads to" for="number-destination" :fault="faults['/destination']">
            <DestinationField
              id="number-destination"
              v-model="draft.destination"
              label="Leads to"
              none="nowhere"
              make-queue
              :readonly="!session.mayEdit"
            />
            <p v-if="number !== null && planOf" class="small second">
              <router-link :to="`/answering/${planOf}`">Open its steps</router-link>
            </p>
            <button
              v-else-if="number !== null && session.mayEdit && !building"
              type="button"
              class="link"
              @click="building = true"
            >
              {{ draft.destination === null ? 'Build what callers meet' : 'Make more of it' }}
            </button>
          </LedgerField>
          <PlanBuilder
            v-if="building && number !== null"
            :label="draft.label"
            :e164="number.e164"
            :present="draft.destination"
            @published="built"
            @leave="building = false"
          />
          <LedgerField
            label="At once"
            for="number-most"
            :fault="faults['/mostCalls']"
            hint="Calls it takes at once; one more hears that it is busy. Empty for no limit."
          >
            <input
              id="number-most"
              type="number"
              min="1"
              class="mono most"
              :value="draft.mostCalls ?? ''"
              :readonly="!session.mayEdit"
              @input="
                draft.mostCalls =
                  ($event.target as HTMLInputElement).value === ''
                    ? null
                    : Number(($event.target as HTMLInputElement).value)
              "
            />
          </LedgerField>
          <LedgerField
            label="Priority"
            for="number-priority"
            :fault="faults['/priority']"
            hint="0 to 9, larger is served first; a plan or a queue may say another."
          >
            <input
              id="number-priority"
              v-model.number="draft.priority"
              type="number"
              min="0"
              max="9"
              class="mono most"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
          <LedgerField
            label="Call source"
            for="number-source"
            :fault="faults['/sourceId']"
            hint="What makes this number ring: an advert, a poster, a page."
          >
            <SourceField id="number-source" v-model="draft.sourceId" :readonly="!session.mayEdit" />
          </LedgerField>
          <LedgerField
            label="Texts"
            for="number-texts"
            :fault="faults['/textsTo']"
            :hint="
              voiceOnly
                ? 'Rented for voice only: no texts come to it.'
                : 'Who reads and answers them. Each text is charged to the balance.'
            "
          >
            <TextReaderField
              id="number-texts"
              v-model="draft.textsTo"
              :readonly="!session.mayEdit || voiceOnly"
            />
          </LedgerField>
          <LedgerField
            label="Shown by"
            for="number-teams"
            hint="Whose people may show it as caller ID when they dial. A campaign chooses its own."
          >
            <v-autocomplete
              id="number-teams"
              v-model="draft.dialTeams"
              multiple
              chips
              closable-chips
              placeholder="everybody"
              :items="setUp.teams"
              item-value="id"
              item-title="name"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed"
            :make="number === null ? 'Enter this number' : null"
            @leave="number === null ? emit('close') : begin(draftOf(number), number.version)"
          />
        </section>
      </form>
      <section v-if="number !== null">
        <h3>What it is</h3>
        <p>
          {{ placeOf(number.e164) ?? 'Place not known'
          }}{{ number.canText || number.textsTo !== null ? ', voice and text' : ', voice' }}.
          <span class="mono">{{ number.callsToday }}</span>
          {{ number.callsToday === 1 ? 'call' : 'calls' }} today.
        </p>
        <p class="second">
          <template v-if="number.monthly"
            >Rented at the shop for <span class="mono">{{ money(number.monthly) }}</span> a month, paid until
            {{ number.paidUntil?.slice(0, 10) }}.</template
          >
          <template v-else>Brought from elsewhere: its rent is not ours to charge.</template>
        </p>
        <p v-if="number.reports.length > 0" class="fault-text">{{ reportWords(number) }}.</p>
        <div class="buttons">
          <v-btn @click="test.show(formatNumber(number.e164))">Test a call</v-btn>
          <v-btn :to="`/calls?numberId=${number.id}`">Its calls</v-btn>
          <v-btn v-if="session.mayEdit && !asking" @click="asking = true">Give up</v-btn>
        </div>
        <p v-if="asking" class="ask">
          {{
            number.monthly
              ? 'It goes back to the shop, and the month paid is not paid back.'
              : 'Giving a number up cannot be taken back.'
          }}
          <button class="link" type="button" @click="giveUp">Give {{ formatNumber(number.e164) }} up</button>
          <button class="link" type="button" @click="asking = false">Keep it</button>
        </p>
      </section>
    </template>
    <section v-else-if="tab === 1 && number !== null">
      <p v-if="number.textsTo === null" class="second">
        Nobody reads the texts of this number, so they are refused. Say who does, under Number.
      </p>
      <TextThreads :number-id="number.id" :may-write="session.mayOperate && number.textsTo !== null" />
    </section>
    <CallTimes v-else-if="tab === 2 && number !== null" :number-id="number.id" />
    <UsedByList v-else-if="tab === 3" :users="users" none="No campaign shows this number as its caller ID." />
    <HistoryList v-else-if="number !== null" :item-id="number.id" :words="numberWords" :show="show" />
  </Sheet>
</template>

<style scoped>
.most {
  width: 64px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
}
.ask {
  margin-top: 10px;
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
}
</style>
