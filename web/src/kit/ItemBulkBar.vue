<script
  setup
  lang="ts"
  generic="
    Draft extends { name: string },
    View extends Draft & { id: string; version: number; retired: boolean }
  "
>
import { computed } from 'vue';
import { useCollection } from '../shell/collection.ts';
import { useNotices } from '../shell/notices.ts';
import { useBulk } from './bulk.ts';
import type { ItemArea } from './item-area.ts';
import { figure } from './locale.ts';

/** What can be done to the marked rows of a list of plain items. */
const props = defineProps<{ area: ItemArea<Draft, View>; items: readonly View[] }>();
const emit = defineEmits<{ clear: [] }>();
const { put } = useCollection(props.area.api);
const notices = useNotices();
const { soFar, run, stop } = useBulk<View>();
const inUse = computed(() => props.items.filter(({ retired }) => !retired));
const gone = computed(() => props.items.filter(({ retired }) => retired));
const counted = (count: number) => (count === 1 ? `1 ${props.area.one}` : `${figure(count)} of them`);

async function change(retires: boolean): Promise<void> {
  const { api } = props.area;
  const [verb, back] = retires ? (['retire', 'reactivate'] as const) : (['reactivate', 'retire'] as const);
  const word = retires ? 'deactivated' : 'back';
  const one = async (item: View, how: 'retire' | 'reactivate') => {
    const view = await api[how](item.id, item.version);
    put(view);
    return view;
  };
  try {
    const { done, refused } = await run(retires ? inUse.value : gone.value, (item) => one(item, verb));
    const undo = async () => {
      await run(done, (item) => one(item, back));
      notices.say('Taken back.');
    };
    const [first] = refused;
    if (first === undefined)
      notices.say(`${counted(done.length)} ${done.length === 1 ? 'is' : 'are'} ${word}.`, undo);
    else
      notices.warn(
        `${counted(done.length)} ${done.length === 1 ? 'is' : 'are'} ${word}, ${figure(refused.length)} not. ${first.item.name}: ${first.why}`,
      );
    emit('clear');
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <div class="bulk" role="group" aria-label="The marked rows">
    <b class="mono">{{ figure(items.length) }}</b> marked
    <template v-if="soFar">
      <span class="mono second" role="status">{{ figure(soFar.done) }} of {{ figure(soFar.all) }}</span>
      <v-btn class="small-button" @click="stop">Stop</v-btn>
    </template>
    <template v-else>
      <v-btn v-if="inUse.length > 0" class="small-button" @click="change(true)">Deactivate</v-btn>
      <v-btn v-if="gone.length > 0" class="small-button" @click="change(false)">Reactivate</v-btn>
      <button class="link" type="button" @click="emit('clear')">Unmark</button>
    </template>
  </div>
</template>

<style scoped>
.bulk {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 5px 20px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
  flex: none;
}
</style>
