<script setup lang="ts">
import type { CodeView } from '@night-bell/core/contracts/codes';
import { computed, ref } from 'vue';
import { send } from '../../api/items.ts';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Shape from '../../kit/Shape.vue';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { hoursApi } from '../hours/words.ts';
import { ringGroupApi } from '../ring-groups/words.ts';
import { codeArea, doesWords } from './words.ts';

/** What is dialled on our own phones, and who may. */
defineProps<{ id?: string }>();
const session = useSession();
const setUp = useSetUp();
const notices = useNotices();
const sets = useCollection(hoursApi);
const pin = ref('');
const does = Object.entries(doesWords).map(([value, title]) => ({ value, title }));
const setChoices = computed(() =>
  (sets.items.value ?? [])
    .filter(({ retired }) => !retired)
    .map(({ id, name }) => ({ value: id, title: name })),
);
const groups = useCollection(ringGroupApi);
const groupChoices = computed(() =>
  (groups.items.value ?? [])
    .filter(({ retired }) => !retired)
    .map(({ id, name }) => ({ value: id, title: name })),
);
const setName = (id: string) => sets.byId.value.get(id)?.name ?? '';
const columns = [
  { key: 'digits', title: 'Code', width: '72px', mono: true, sort: (row: CodeView) => row.digits },
  { key: 'name', title: 'Name', width: '200px', sort: (row: CodeView) => row.name },
  { key: 'what', title: 'Does' },
  { key: 'who', title: 'May use it', width: '170px' },
  { key: 'state', title: '', width: '110px' },
];
const what = ({ does: doing, hoursIds, forHours, groupIds }: CodeView) =>
  doing === 'voicemail'
    ? 'Opens the voicemail box of whoever dials'
    : doing === 'takePart'
      ? `Lets whoever dials sit out of ${groupIds.map(setUp.nameOf).join(', ') || 'all their ring groups'}, or come back`
      : `Closes ${hoursIds.map(setName).join(', ')} for ${forHours === 1 ? '1 hour' : `${forHours} hours`}`;
/** Whose voicemail it opens, that box asks for its own. */
const lacksPin = ({ does: doing, hasPin }: CodeView) => doing === 'storm' && !hasPin;
const sentence = (inUse: CodeView[]) => {
  const count = inUse.length === 1 ? '1 code' : `${inUse.length} codes`;
  const without = inUse.filter(lacksPin).length;
  return without === 0 ? `${count}, dialled on our own phones` : `${count}, ${without} without a PIN`;
};

async function setPin(code: CodeView): Promise<void> {
  try {
    await send('POST', `/api/service-codes/${code.id}/pin`, { body: { pin: pin.value } });
    pin.value = '';
    notices.say(`The PIN of ${code.name} is set.`);
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <ItemPage
    :id="id"
    :area="codeArea"
    :columns="columns"
    :sentence="sentence"
    empty="No codes yet. With one, a storm day is called from any phone of the house, by PIN."
  >
    <template #cell-digits="{ row }">{{ row.digits }}</template>
    <template #cell-what="{ row }"
      ><span class="second">{{ what(row) }}</span></template
    >
    <template #cell-who="{ row }">{{ row.teamIds.map(setUp.nameOf).join(', ') || 'everybody' }}</template>
    <template #cell-state="{ row }">
      <span v-if="lacksPin(row) && !row.retired" class="fault-text"><Shape name="fault" /> no PIN</span>
    </template>
    <template #sheet="{ item, close, choose }">
      <ItemSheet :key="item?.id ?? 'new'" :area="codeArea" :item="item" @close="close()" @made="choose">
        <template #default="{ draft, faults, readonly }">
          <LedgerField
            label="Code"
            for="code-digits"
            :fault="faults['/digits']"
            hint="* and two to six digits. It comes before extensions and dialling rules."
          >
            <v-text-field id="code-digits" v-model="draft.digits" :readonly="readonly" class="mono short" />
          </LedgerField>
          <LedgerField label="Does" for="code-does">
            <v-select id="code-does" v-model="draft.does" :items="does" :readonly="readonly" />
          </LedgerField>
          <LedgerField
            v-if="draft.does === 'storm'"
            label="Closes"
            for="code-sets"
            :fault="faults['/hoursIds']"
          >
            <v-autocomplete
              id="code-sets"
              v-model="draft.hoursIds"
              :items="setChoices"
              :readonly="readonly"
              multiple
              chips
              closable-chips
              placeholder="Which sets of hours"
            />
          </LedgerField>
          <LedgerField
            v-if="draft.does === 'storm'"
            label="For"
            for="code-hours"
            :fault="faults['/forHours']"
          >
            <span class="words"
              ><input
                id="code-hours"
                v-model.number="draft.forHours"
                type="number"
                min="1"
                max="72"
                class="mono number"
                :readonly="readonly"
              />
              hours; dialled again it opens</span
            >
          </LedgerField>
          <LedgerField
            v-if="draft.does === 'takePart'"
            label="Groups"
            for="code-groups"
            :fault="faults['/groupIds']"
            hint="Who takes part in any of them sits out of all; dialled again they come back."
          >
            <v-autocomplete
              id="code-groups"
              v-model="draft.groupIds"
              :items="groupChoices"
              :readonly="readonly"
              multiple
              chips
              closable-chips
              placeholder="all that whoever dials is in"
            />
          </LedgerField>
          <LedgerField label="May use it" for="code-teams" :fault="faults['/teamIds']">
            <v-autocomplete
              id="code-teams"
              v-model="draft.teamIds"
              :items="setUp.teams"
              item-value="id"
              item-title="name"
              :readonly="readonly"
              multiple
              chips
              closable-chips
              placeholder="everybody"
            />
          </LedgerField>
        </template>
        <template #beside="{ item: shown }">
          <section>
            <p v-if="shown.insteadOf" class="second">
              The dialling rule {{ shown.insteadOf }} would take {{ shown.digits }} out; the code comes first.
            </p>
            <h3>PIN</h3>
            <p v-if="shown.does === 'takePart'" class="second">
              None is asked for: it is about whoever’s phone dials, and nobody else.
            </p>
            <p v-else-if="shown.does === 'voicemail'" class="second">
              The PIN of the box is asked for; it is set in the box, or at its owner’s desk.
            </p>
            <p v-else :class="shown.hasPin ? 'second' : 'fault-text'">
              {{
                shown.hasPin ? 'Set. It is shown to nobody.' : 'None yet: the code does nothing without one.'
              }}
            </p>
            <form
              v-if="session.mayEdit && shown.does === 'storm'"
              class="line"
              @submit.prevent="setPin(shown)"
            >
              <input
                v-model="pin"
                type="password"
                inputmode="numeric"
                autocomplete="new-password"
                class="mono pin"
                aria-label="New PIN, 4 to 10 digits"
                placeholder="4 to 10 digits"
                maxlength="10"
              />
              <v-btn type="submit" class="small-button" :disabled="!/^\d{4,10}$/.test(pin)">Set</v-btn>
            </form>
            <p class="second small told">
              Whoever dials it types the PIN, hears what is about to close, and presses 1. Nothing holds
              before that.
            </p>
          </section>
        </template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>

<style scoped>
.short {
  max-width: 110px;
}
.words {
  display: block;
  padding-top: 4px;
}
.number,
.pin {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
}
.number {
  width: 48px;
  text-align: right;
}
.pin {
  width: 118px;
  height: 26px;
}
.line {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
.told {
  margin-top: 8px;
}
</style>
