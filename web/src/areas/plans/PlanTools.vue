<script setup lang="ts">
import { ref, watch } from 'vue';
import type { VList } from 'vuetify/components/VList';
import { stepKinds } from '@night-bell/core/plan/registry';
import KeyCap from '../../kit/KeyCap.vue';
import { focusSteps } from './focus-steps.ts';
import type { PlanEditing } from './plan-editing.ts';
import { looks, type PlanLook } from './plan-look.ts';
import { shelf } from './words.ts';

/** What one does with the steps of a plan: how they are looked at, add, undo, find. */
const props = defineProps<{
  editing: PlanEditing;
  readonly: boolean;
  mayCopyPlan: boolean;
  /** How many steps hold what is looked for. */
  found: number;
}>();
defineEmits<{ copyPlan: []; nextFound: [] }>();
const view = defineModel<PlanLook>('view', { required: true });
const find = defineModel<string>('find', { required: true });
const shelfOpen = defineModel<boolean>('shelfOpen', { required: true });

const search = ref<HTMLInputElement | null>(null);
defineExpose({ search: () => search.value?.focus() });
const shelfList = ref<InstanceType<typeof VList> | null>(null);
/** The shelf is chosen from by keys; then one is where one was. */
let before: Element | null = null;
watch(shelfOpen, (isOpen) => {
  if (isOpen) before = document.activeElement;
  else if (before instanceof HTMLElement && before.matches('button, input, [role=tree]'))
    before.focus({ preventScroll: true });
  else focusSteps();
});
const { canUndo, canRedo, canPaste } = props.editing;
</script>

<template>
  <div class="tools">
    <fieldset class="looks">
      <legend class="sr-only">Look at it as</legend>
      <label v-for="look in looks" :key="look.value" :class="{ on: view === look.value }">
        <input v-model="view" class="sr-only" type="radio" name="plan-look" :value="look.value" />
        {{ look.title }}
      </label>
    </fieldset>
    <v-menu v-model="shelfOpen" @after-enter="shelfList?.focus('first')">
      <template #activator="{ props: menu }">
        <v-btn v-if="!readonly" v-bind="menu"
          >{{ editing.chosen.value === null ? 'Add step' : 'Add step after' }}<KeyCap>N</KeyCap></v-btn
        >
      </template>
      <v-list ref="shelfList">
        <v-list-item
          v-for="kind in shelf"
          :key="kind"
          :title="stepKinds[kind].word"
          @click="editing.add(kind)"
        />
      </v-list>
    </v-menu>
    <button type="button" class="link" :disabled="!canUndo" @click="editing.undo">Undo</button>
    <button type="button" class="link" :disabled="!canRedo" @click="editing.redo">Redo</button>
    <button v-if="!readonly" type="button" class="link" :disabled="!canPaste" @click="editing.paste">
      Paste
    </button>
    <button v-if="mayCopyPlan" type="button" class="link" @click="$emit('copyPlan')">Copy plan</button>
    <input
      ref="search"
      v-model="find"
      class="find"
      type="text"
      placeholder="Find a step"
      aria-label="Find a step"
      @keydown.enter="$emit('nextFound')"
      @keydown.esc="find = ''"
    />
    <span v-if="find.trim() !== ''" class="second small" role="status">{{
      found === 1 ? '1 step' : `${found} steps`
    }}</span>
    <span class="space"></span>
    <slot />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 6px 20px;
  border-bottom: 1px solid var(--rule);
  flex: none;
}
.find {
  width: 120px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
}
.space {
  flex: 1;
}
.link:disabled {
  color: var(--ink2);
  text-decoration: none;
  cursor: default;
}
</style>
