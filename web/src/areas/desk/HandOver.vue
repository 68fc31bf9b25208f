<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import { api, ask, type DeskWay } from '../../api/client.ts';
import KeyCap from '../../kit/KeyCap.vue';
import StateWord from '../../kit/StateWord.vue';
import { agentWords } from '../../kit/words.ts';
import { useNotices } from '../../shell/notices.ts';

/** Whom the caller goes to: found by name or extension, told of the caller first or not. */
const props = defineProps<{ callId: string }>();
const emit = defineEmits<{ done: [] }>();
const notices = useNotices();
const field = ref<{ focus: () => void } | null>(null);
const search = ref('');
const ways = ref<DeskWay[]>([]);
const chosen = ref<DeskWay | null>(null);
const params = { path: { id: props.callId } };

watch(
  search,
  async (text) => {
    // What is shown after a choice is its name, which is no new search.
    if (text === chosen.value?.name) return;
    const query = { search: text };
    const found = await ask(api.GET('/api/desk/ways', { params: { query } })).catch(() => null);
    if (found !== null && search.value === text) ways.value = found;
  },
  { immediate: true },
);
onMounted(() => field.value?.focus());

async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
    emit('done');
  } catch (error) {
    notices.fail(error);
  }
}
const announce = () =>
  act(() => ask(api.POST('/api/desk/calls/{id}/announce', { params, body: { personId: chosen.value!.id } })));
const handOver = () => {
  const { kind, id } = chosen.value!;
  return act(() => ask(api.POST('/api/desk/calls/{id}/hand-over', { params, body: { to: { kind, id } } })));
};
/** What is known already is narrowed at once, so that a quick hand never takes somebody else. */
const shown = computed(() => {
  const part = search.value === chosen.value?.name ? '' : search.value.toLowerCase();
  return ways.value.filter(
    ({ name, extension }) => name.toLowerCase().includes(part) || extension?.startsWith(part) === true,
  );
});
/**
 * Enter takes the first one found; once more goes the usual way: a colleague hears first who comes, a queue or group cannot be
 * told. Heard before the field hears it, so that one press never does both.
 */
function enter(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).id !== 'hand-over-to') return;
  const now = chosen.value;
  if (now !== null && search.value === now.name) {
    event.stopPropagation();
    void (now.kind === 'person' ? announce() : handOver());
    return;
  }
  // The field chooses by itself, unless its list was just being read.
  setTimeout(() => {
    if (chosen.value === null && search.value !== '') chosen.value = shown.value[0] ?? null;
  });
}
</script>

<template>
  <section
    class="hand-over"
    aria-label="Hand the caller over"
    @keydown.escape.stop="emit('done')"
    @keydown.enter.capture="enter"
  >
    <v-autocomplete
      id="hand-over-to"
      ref="field"
      v-model="chosen"
      v-model:search="search"
      :items="shown"
      item-title="name"
      return-object
      no-filter
      auto-select-first
      placeholder="to whom, by name or extension"
      persistent-placeholder
      aria-label="To whom the caller goes"
      no-data-text="Nobody by that name or extension."
    >
      <template #item="{ props: row, item }">
        <v-list-item v-bind="row">
          <template #append>
            <span class="way">
              <span class="mono second">{{ item.extension }}</span>
              <StateWord
                v-if="item.state"
                :shape="item.state"
                :word="item.canRing ? agentWords[item.state] : `${agentWords[item.state]}, cannot be rung`"
              />
              <span v-else class="second">{{ item.kind === 'queue' ? 'queue' : 'ring group' }}</span>
            </span>
          </template>
        </v-list-item>
      </template>
    </v-autocomplete>
    <div class="buttons">
      <v-btn
        v-if="chosen === null || chosen.kind === 'person'"
        variant="flat"
        color="primary"
        :disabled="chosen === null || !chosen.canRing"
        @click="announce"
        >Tell them first<KeyCap>Enter</KeyCap></v-btn
      >
      <v-btn :disabled="chosen === null" @click="handOver">Hand over at once</v-btn>
      <v-btn @click="emit('done')">Stay<KeyCap>Esc</KeyCap></v-btn>
    </div>
    <p v-if="chosen?.kind === 'person' && !chosen.canRing" class="small second">
      {{ chosen.name }} cannot be rung now. Handed over at once, the caller goes where their calls go when
      nobody answers.
    </p>
  </section>
</template>

<style scoped>
.hand-over {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 12px;
  align-items: center;
  padding: 10px 20px 12px 48px;
  border-bottom: 1px solid var(--rule2);
}
.buttons {
  display: flex;
  gap: 8px;
}
.way {
  display: flex;
  gap: 12px;
}
p {
  grid-column: 1 / -1;
}
</style>
