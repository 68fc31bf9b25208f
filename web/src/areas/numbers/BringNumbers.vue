<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, ref } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ApiProblem, ask, type BroughtNumbers } from '../../api/client.ts';
import Shape from '../../kit/Shape.vue';
import Sheet from '../../kit/Sheet.vue';
import { FileFault, readText } from '../../kit/text-file.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** Numbers held elsewhere, pasted or from a file: checked as they stand, brought all or none. */
const emit = defineEmits<{ close: [] }>();
const setUp = useSetUp();
const notices = useNotices();
const text = ref('');
const checked = ref<BroughtNumbers | null>(null);
const fault = ref('');
const busy = ref(false);
const largest = 4 * 1024 * 1024;

const bad = computed(() => (checked.value?.rows ?? []).filter((row) => Object.keys(row.faults).length > 0));
const count = computed(() => checked.value?.rows.length ?? 0);

async function send(dryRun: boolean): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    checked.value = await ask(api.POST('/api/numbers/list', { body: { text: text.value, dryRun } }));
    if (checked.value.made === 0) return;
    await setUp.load();
    notices.say(`${checked.value.made === 1 ? '1 number is' : `${checked.value.made} numbers are`} brought.`);
    emit('close');
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    fault.value = Object.values(error.faults)[0] ?? error.detail;
  } finally {
    busy.value = false;
  }
}

async function takeFile(file: File | undefined | null): Promise<void> {
  if (file == null) return;
  fault.value = '';
  if (file.size > largest) {
    fault.value = `${file.name} has ${Math.round(file.size / 1_048_576)} MB; 4 MB are taken at once. Split it.`;
    return;
  }
  try {
    text.value = await readText(file);
  } catch (error) {
    if (!(error instanceof FileFault)) throw error;
    fault.value = error.message;
    return;
  }
  await send(true);
}
</script>

<template>
  <Sheet fresh title="Bring numbers" second="Held already, at any provider" @close="emit('close')">
    <section @dragover.prevent @drop.prevent="takeFile(($event as DragEvent).dataTransfer?.files[0])">
      <textarea
        v-model="text"
        class="mono"
        rows="7"
        aria-label="Rows of numbers"
        placeholder="number, label, leads to, source, texts to, calls at once&#10;+1 206 555 0140, Main line, Bookings, , Bookings, 30"
      />
      <p class="small second">
        Paste rows, or drop a CSV or XLSX file here. Columns are known by their names; only the number is
        needed. What it leads to, and who reads its texts, goes by name or extension.
      </p>
      <p v-if="fault" class="fault-text" role="alert">{{ fault }}</p>
      <div class="buttons">
        <v-btn :disabled="text.trim() === ''" :loading="busy" @click="send(true)">Check</v-btn>
        <v-btn
          v-if="checked && bad.length === 0 && count > 0"
          variant="flat"
          color="primary"
          :loading="busy"
          @click="send(false)"
          >Bring {{ count === 1 ? 'it' : `all ${count.toLocaleString(locale)}` }}</v-btn
        >
      </div>
    </section>
    <section v-if="checked">
      <p v-if="bad.length > 0" class="fault-text">
        {{ bad.length }} of {{ count }} rows are wrong. Mend them above; nothing is brought before all are
        right.
      </p>
      <ul>
        <li v-for="(row, index) in (bad.length > 0 ? bad : checked.rows).slice(0, 100)" :key="index">
          <span class="mono">{{ formatNumber(row.number) }}</span>
          <span>{{ row.label }}</span>
          <span class="second">{{ row.destination || 'nowhere yet' }}</span>
          <p v-for="(sentence, cell) in row.faults" :key="cell" class="fault-text small">
            <Shape name="fault" /> {{ sentence }}
          </p>
        </li>
      </ul>
    </section>
  </Sheet>
</template>

<style scoped>
textarea {
  width: 100%;
  border: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 6px;
  resize: vertical;
}
li {
  display: grid;
  grid-template-columns: 128px 1fr 1fr;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
  padding: 3px 0;
}
li p {
  grid-column: 1 / -1;
}
</style>
