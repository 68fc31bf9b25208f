<script setup lang="ts">
import type { ScriptKeyView } from '@night-bell/core/contracts/script-keys';
import { computed, onMounted, ref } from 'vue';
import { send } from '../../api/items.ts';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import LedgerField from '../../kit/LedgerField.vue';
import SecretLine from '../../kit/SecretLine.vue';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { roleWords } from '../../kit/words.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { scriptKeyArea } from './words.ts';

/** Keys by which scripts use the API: what each may do, and when it was used last. */
const props = defineProps<{ id?: string }>();
const session = useSession();
const notices = useNotices();
const { moment } = useClock();
const areas = ref<string[]>([]);
onMounted(async () => {
  if (session.mayEdit) areas.value = await send<string[]>('GET', '/api/script-keys/areas').catch(() => []);
});
const roles = (['auditor', 'supervisor', 'administrator'] as const).map((value) => ({
  value,
  title: roleWords[value],
}));
/** Beside a sheet there is room for what tells keys apart. */
const hidden = computed(() => props.id !== undefined && props.id !== '');
const columns = computed(() => [
  { key: 'name', title: 'Name', width: '220px', sort: (row: ScriptKeyView) => row.name },
  { key: 'role', title: 'May do what', width: '140px', sort: (row: ScriptKeyView) => row.role },
  { key: 'areas', title: 'Kept to', hidden: hidden.value },
  {
    key: 'used',
    title: 'Used last',
    width: '130px',
    time: true as const,
    sort: (row: ScriptKeyView) => row.lastUsedAt ?? 0,
  },
  { key: 'state', title: '', width: '120px' },
]);
const sentence = (inUse: ScriptKeyView[]) => {
  const unused = inUse.filter(({ lastUsedAt }) => lastUsedAt === null).length;
  const count = inUse.length === 1 ? '1 key' : `${inUse.length} keys`;
  return unused === 0 ? count : `${count}, ${unused} never used`;
};

/** The secret of one key, until another sheet is opened. */
const secret = ref<{ of: string; value: string } | null>(null);
async function makeSecret({ id, name, hasSecret }: ScriptKeyView): Promise<void> {
  try {
    const made = await send<{ secret: string }>('POST', `/api/script-keys/${id}/secret`, { body: {} });
    secret.value = { of: id, value: made.secret };
    notices.say(hasSecret ? `${name} has another secret; the one before has ended.` : `${name} can be used.`);
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <ItemPage
    :id="id"
    :area="scriptKeyArea"
    :columns="columns"
    :sentence="sentence"
    empty="No keys yet. With one, a script reads calls or makes people without signing in; each can be ended alone."
  >
    <template #cell-role="{ row }">{{ roleWords[row.role] }}</template>
    <template #cell-areas="{ row }">{{ row.areas.join(', ') || 'everything the role may' }}</template>
    <template #cell-used="{ row }">{{ row.lastUsedAt === null ? 'never' : moment(row.lastUsedAt) }}</template>
    <template #cell-state="{ row }">
      <span v-if="!row.hasSecret && !row.retired" class="fault-text"><Shape name="fault" /> no secret</span>
      <span v-else class="mono second">{{ row.begins }}…</span>
    </template>
    <template #sheet="{ item, close, choose }">
      <ItemSheet :key="item?.id ?? 'new'" :area="scriptKeyArea" :item="item" @close="close()" @made="choose">
        <template #default="{ draft, faults, readonly }">
          <LedgerField label="May do what" for="key-role" :fault="faults['/role']">
            <v-select id="key-role" v-model="draft.role" :items="roles" :readonly="readonly" />
          </LedgerField>
          <LedgerField
            label="Kept to"
            for="key-areas"
            :fault="faults['/areas']"
            hint="Headings of the API document. Signing in, the desk and these keys are for people only."
          >
            <v-autocomplete
              id="key-areas"
              v-model="draft.areas"
              :items="areas"
              :readonly="readonly"
              multiple
              chips
              closable-chips
              placeholder="everything the role may"
            />
          </LedgerField>
        </template>
        <template #beside="{ item: shown }">
          <section v-if="session.mayEdit && !shown.retired">
            <h3>Secret</h3>
            <SecretLine
              v-if="secret?.of === shown.id"
              label="Shown once"
              :value="secret.value"
              taker="Send it with each request: Authorization: Bearer, then the secret."
            />
            <p v-else-if="shown.hasSecret" class="second">
              Begins with <span class="mono">{{ shown.begins }}</span>; the rest is kept nowhere. Changes made
              with it stand under the name of {{ shown.madeBy }}.
            </p>
            <p v-else class="fault-text">None yet: the key opens nothing.</p>
            <div class="buttons">
              <v-btn @click="makeSecret(shown)">{{
                shown.hasSecret ? 'Make another, end this one' : 'Make the secret'
              }}</v-btn>
            </div>
            <p class="small second">
              <a href="/api/docs" target="_blank">What the API offers</a>
            </p>
          </section>
        </template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>
