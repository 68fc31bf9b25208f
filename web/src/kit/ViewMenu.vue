<script setup lang="ts">
import { ref } from 'vue';
import type { ListView } from '@night-bell/core/contracts/list-views';
import { ApiProblem, sentenceOf } from '../api/client.ts';
import { useNotices } from '../shell/notices.ts';
import { useSession } from '../shell/session.ts';
import type { ListLook } from './list-view.ts';
import Shape from './Shape.vue';
import TakeOut from './TakeOut.vue';

/** How a list is looked at: its columns, the views kept of it, and keeping this one. */
const props = defineProps<{ look: ListLook }>();
const session = useSession();
const notices = useNotices();
const open = ref(false);
const panel = ref<HTMLElement | null>(null);
// Whoever opens it by keys goes on in it, once it is there to be seen.
const goOn = () => panel.value?.querySelector('input')?.focus({ preventScroll: true });
const name = ref('');
const shared = ref(false);
const fault = ref('');
const { columns, views, current, missing } = props.look;

function take(view: ListView): void {
  props.look.take(view);
  open.value = false;
}

async function keep(): Promise<void> {
  fault.value = '';
  try {
    await props.look.keep(name.value, shared.value);
    notices.say(`${name.value.trim()} is kept. It is found here.`);
    name.value = '';
    open.value = false;
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    fault.value = sentenceOf(error);
  }
}

async function drop(view: ListView): Promise<void> {
  await props.look.drop(view).catch(notices.fail);
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false" @after-enter="goOn">
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu" class="opener"
        ><span class="word">{{ current?.name ?? 'View' }}</span></v-btn
      >
    </template>
    <div ref="panel" class="view" role="dialog" aria-label="How this list is looked at">
      <p v-if="missing.length > 0" class="fault-text small" role="alert">
        <Shape name="fault" /> This view asks for
        {{ missing.length === 1 ? 'a column that is' : 'columns that are' }} no longer here:
        {{ missing.join(', ') }}.
      </p>
      <h2>Columns</h2>
      <div class="columns">
        <v-checkbox
          v-for="column in columns"
          :key="column.key"
          :model-value="column.shown"
          :label="column.title"
          @update:model-value="look.showColumn(column.key, $event === true)"
        />
      </div>
      <button
        v-if="columns.some(({ shown }) => !shown)"
        class="link small"
        type="button"
        @click="look.usualColumns()"
      >
        Show them all
      </button>
      <h2>Views</h2>
      <p v-if="views.length === 0" class="second small">
        None yet. A view keeps what the list is narrowed to, its order and its columns.
      </p>
      <ul>
        <li v-for="view in views" :key="view.id" :class="{ current: view.id === current?.id }">
          <button class="link" type="button" @click="take(view)">{{ view.name }}</button>
          <span class="second small">{{
            view.mine ? (view.shared ? 'for everybody' : '') : `from ${view.by}`
          }}</span>
          <TakeOut
            v-if="view.mine || (view.shared && session.mayEdit)"
            :what="`Delete the view ${view.name}`"
            @click="drop(view)"
          />
        </li>
      </ul>
      <form @submit.prevent="keep">
        <v-text-field
          v-model="name"
          aria-label="Name of this view"
          placeholder="Keep this view as"
          maxlength="80"
        />
        <v-checkbox v-if="session.mayOperate" v-model="shared" label="for everybody" />
        <v-btn type="submit" :disabled="name.trim() === ''">Keep</v-btn>
        <p v-if="fault" class="fault-text small" role="alert"><Shape name="fault" /> {{ fault }}</p>
      </form>
    </div>
  </v-menu>
</template>

<style scoped>
.opener {
  max-width: 180px;
}
.word {
  overflow: hidden;
  text-overflow: ellipsis;
}
.view {
  width: 340px;
  max-height: min(560px, 80vh);
  overflow: auto;
  padding: 12px 16px;
  background: var(--sheet);
  border: 1px solid var(--rule2);
}
h2 {
  margin: 0 0 4px;
  font: 600 13px/18px var(--sans);
}
h2:not(:first-of-type) {
  margin-top: 12px;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 8px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 24px;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  border-bottom: 1px solid var(--rule);
}
li .link {
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
}
.current .link {
  font-weight: 600;
  color: var(--ink);
}
form {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  margin-top: 10px;
}
form :deep(.v-text-field) {
  flex: 1 1 100%;
}
form p {
  width: 100%;
}
</style>
