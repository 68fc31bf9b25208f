<script setup lang="ts">
import { ref, watch } from 'vue';
import { api, ask, type Change } from '../api/client.ts';
import { useLive } from '../shell/live.ts';
import { useNotices } from '../shell/notices.ts';
import { useSession } from '../shell/session.ts';
import { changeWords } from './changes.ts';
import { useClock } from './time.ts';

/** Who changed what, newest first; a change of fields can be taken back. */
const props = defineProps<{
  itemId: string;
  words: Record<string, string>;
  show: (field: string, value: unknown) => string;
}>();
const emit = defineEmits<{ takenBack: [] }>();
const changes = ref<Change[]>([]);
const notices = useNotices();
const session = useSession();
const live = useLive();
const { moment } = useClock();

async function load(): Promise<void> {
  changes.value = await ask(
    api.GET('/api/items/{id}/history', { params: { path: { id: props.itemId } } }),
  ).catch(() => []);
}

async function takeBack(change: Change): Promise<void> {
  try {
    await ask(api.POST('/api/changes/{id}/take-back', { params: { path: { id: change.id } } }));
    notices.say('Taken back.');
    emit('takenBack');
  } catch (error) {
    notices.fail(error);
  }
  await load();
}

watch([() => props.itemId, () => live.configurationChanges, () => live.changedItems], load, {
  immediate: true,
});
</script>

<template>
  <section>
    <ol>
      <li v-for="change in changes" :key="change.id">
        <div class="line">
          <span class="mono">{{ moment(change.at) }}</span>
          <span>
            <b>{{ change.takesBack === null ? changeWords[change.what] : 'Took a change back' }}</b>
            {{ change.about ?? '' }} by {{ change.by ?? 'Night Bell' }}
          </span>
          <button
            v-if="change.canBeTakenBack && session.mayEdit"
            class="link"
            type="button"
            @click="takeBack(change)"
          >
            Take back
          </button>
        </div>
        <ul v-if="change.what === 'changed'" class="small">
          <li v-for="field in change.fields" :key="field.field">
            {{ words[field.field] ?? field.field }}: {{ show(field.field, field.before) }} →
            {{ show(field.field, field.after) }}
          </li>
        </ul>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 112px 1fr auto;
  gap: 8px;
  padding: 4px 0;
}
ul {
  padding: 0 0 6px 120px;
  color: var(--ink2);
  overflow-wrap: anywhere;
}
</style>
