<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, ifMatch, type Source } from '../../api/client.ts';
import SourceTrend from './SourceTrend.vue';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import DayField from '../../kit/DayField.vue';
import FormEnd from '../../kit/FormEnd.vue';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Sheet from '../../kit/Sheet.vue';
import { dayOf } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { kindWords, sourceWords } from './words.ts';

type Draft = Pick<Source, 'name' | 'kind' | 'cost' | 'costPer' | 'fromDay'>;

const props = defineProps<{ source: Source | null }>();
const emit = defineEmits<{ close: []; made: [source: Source] }>();
const setUp = useSetUp();
const session = useSession();
const live = useLive();
const today = computed(() => dayOf(live.now, session.timeZone));
const notices = useNotices();
const act = useActing();
const tab = ref(0);
const show = (field: string, value: unknown) =>
  field === 'kind' ? kindWords[value as Source['kind']] : String(value);

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    if (props.source === null) {
      const made = await ask(api.POST('/api/sources', { body: value }));
      await setUp.load();
      notices.say(`${made.name} is made. Give it to a number, under Numbers.`);
      emit('made', made);
      return;
    }
    const params = { path: { id: props.source.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/sources/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.source.id);
  });

function draftOf(source: Source | null): Draft {
  if (source === null) {
    const fromDay = dayOf(live.now, session.timeZone);
    return { name: '', kind: 'advert', cost: '0', costPer: 'month', fromDay };
  }
  const { name, kind, cost, costPer, fromDay } = source;
  return { name, kind, cost, costPer, fromDay };
}

watch(
  () => props.source,
  (source) => {
    if (!changed.value) begin(draftOf(source), source?.version ?? 0);
  },
  { immediate: true },
);

const guarded = () => ({
  params: { path: { id: props.source!.id }, header: ifMatch(props.source!.version) },
});
const retire = () =>
  act(() => ask(api.POST('/api/sources/{id}/retire', guarded())), `${props.source!.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/sources/{id}/reactivate', guarded())), `${props.source!.name} is back.`);
</script>

<template>
  <Sheet
    :fresh="source === null"
    v-model:tab="tab"
    :title="source?.name ?? 'New source'"
    :second="source === null ? 'An advert, a poster, a page' : kindWords[source.kind]"
    :tabs="source === null ? [] : ['Source', 'Trend', 'History']"
    @close="emit('close')"
  >
    <SourceTrend v-if="tab === 1 && source !== null" :source-id="source.id" />
    <template v-else-if="tab === 0 && draft">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="sourceWords"
        :show="show"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" for="source-name" :fault="faults['/name']">
            <v-text-field
              id="source-name"
              v-model="draft.name"
              :readonly="!session.mayEdit"
              :autofocus="source === null"
              autocomplete="off"
            />
          </LedgerField>
          <LedgerField label="Kind" for="source-kind">
            <v-select
              id="source-kind"
              v-model="draft.kind"
              :items="Object.entries(kindWords).map(([value, title]) => ({ value, title }))"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
        </section>
        <section>
          <p class="settings">
            Costs
            <input v-model="draft.cost" class="amount" aria-label="Cost" :readonly="!session.mayEdit" />
            <select v-model="draft.costPer" aria-label="How it is paid" :disabled="!session.mayEdit">
              <option value="month">a month</option>
              <option value="once">once</option>
            </select>
            from
            <span class="day"
              ><DayField
                v-model="draft.fromDay"
                label="From day"
                :today="today"
                toward="past"
                :readonly="!session.mayEdit"
            /></span>
          </p>
          <p v-for="field in ['/cost', '/fromDay']" :key="field" class="fault-text">{{ faults[field] }}</p>
          <p class="second small">
            A monthly cost is spread over the days of each month; what is paid once counts on its day.
          </p>
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed"
            :make="source === null ? 'Make this source' : null"
            @leave="source === null ? emit('close') : begin(draftOf(source), source.version)"
          />
        </section>
      </form>
      <section v-if="source !== null">
        <h3>Numbers that carry it</h3>
        <p v-if="source.numbers.length === 0" class="second">
          None yet. On a number's sheet, choose this source.
        </p>
        <ul>
          <li v-for="number in source.numbers" :key="number.id">
            <router-link :to="`/numbers/${number.id}`" class="mono">{{
              formatNumber(number.e164)
            }}</router-link>
            {{ number.label }}
          </li>
        </ul>
      </section>
      <section v-if="source !== null && session.mayEdit">
        <v-btn v-if="!source.retired" @click="retire">Deactivate</v-btn>
        <v-btn v-else @click="reactivate">Reactivate</v-btn>
      </section>
    </template>
    <HistoryList v-else-if="source !== null" :item-id="source.id" :words="sourceWords" :show="show" />
  </Sheet>
</template>

<style scoped>
.day {
  display: inline-block;
  width: 170px;
}
.settings {
  line-height: 28px;
}
.settings input,
.settings select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 24px;
  padding: 0 2px;
  font: 12px/18px var(--mono);
}
.settings select option {
  background: var(--sheet);
}
.amount {
  width: 84px;
  text-align: right;
}
</style>
