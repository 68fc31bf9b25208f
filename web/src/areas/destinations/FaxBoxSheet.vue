<script setup lang="ts">
import { ref, watch } from 'vue';
import type { FaxBoxView } from '@night-bell/core/contracts/destinations';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type Fax } from '../../api/client.ts';
import ExtensionLine from '../../kit/ExtensionLine.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import { useClock } from '../../kit/time.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import ExtensionTest from './ExtensionTest.vue';
import { faxBoxArea } from './words.ts';

/** A box for faxes, and the faxes in it. */
const props = defineProps<{ item: FaxBoxView | null }>();
const emit = defineEmits<{ close: []; made: [item: FaxBoxView] }>();
const area = faxBoxArea(useSetUp().nameOf);
const session = useSession();
const { moment } = useClock();
const faxes = ref<Fax[]>([]);

watch(
  () => props.item,
  async (box) => {
    if (box === null) return;
    const params = { path: { id: box.id } };
    faxes.value = await ask(api.GET('/api/fax-boxes/{id}/faxes', { params })).catch(() => faxes.value);
  },
  { immediate: true },
);
</script>

<template>
  <ItemSheet :area="area" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #default="{ draft }">
      <ExtensionLine v-model="draft.extension" />
    </template>
    <template #beside="{ item: shown }">
      <section>
        <h3>Faxes</h3>
        <p v-if="faxes.length === 0" class="second">None yet.</p>
        <ul>
          <li v-for="fax in faxes" :key="fax.id">
            <span class="second small">{{ moment(Date.parse(fax.at)) }}</span>
            <span class="mono">{{ formatNumber(fax.sender) }}</span>
            <a v-if="session.mayOperate" :href="`/api/faxes/${fax.id}/file`" download
              >{{ fax.pages }} {{ fax.pages === 1 ? 'page' : 'pages' }}</a
            >
          </li>
        </ul>
      </section>
      <ExtensionTest :extension="shown.extension" />
    </template>
  </ItemSheet>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
</style>
