<script setup lang="ts">
import { nextTick, onBeforeUnmount, onMounted, ref } from 'vue';
import { focusBack, focusOpened } from '../shell/focus.ts';
import { useKeys } from '../shell/keys.ts';

/** The object sheet: beside the list, never over it. */
const props = defineProps<{
  title: string;
  second?: string;
  tabs?: string[];
  /** Something new is typed here: its first field takes the keys. */
  fresh?: boolean;
}>();
const emit = defineEmits<{ close: [] }>();
const tab = defineModel<number>('tab', { default: 0 });
useKeys({ Escape: () => emit('close') });

const sheet = ref<HTMLElement | null>(null);
const before = document.activeElement;
onMounted(() => void nextTick(() => sheet.value !== null && focusOpened(sheet.value, props.fresh === true)));
onBeforeUnmount(() => void nextTick(() => focusBack(before)));
</script>

<template>
  <aside ref="sheet" class="sheet" :aria-label="title">
    <header>
      <div class="names">
        <h2 tabindex="-1">{{ title }}</h2>
        <p v-if="second" class="second">{{ second }}</p>
      </div>
      <div class="state"><slot name="state" /></div>
      <button class="close" type="button" aria-label="Close the sheet" @click="emit('close')">×</button>
    </header>
    <v-tabs v-if="tabs && tabs.length > 1" v-model="tab" class="tabs" height="30">
      <v-tab v-for="(word, index) in tabs" :key="word" :value="index" :text="word" />
    </v-tabs>
    <div class="body" tabindex="-1"><slot /></div>
  </aside>
</template>

<style scoped>
.sheet {
  width: 412px;
  flex: none;
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
header {
  display: flex;
  gap: 12px;
  padding: 14px 12px 8px 20px;
}
.names {
  flex: 1;
  min-width: 0;
  overflow-wrap: anywhere;
}
.state {
  text-align: right;
}
.close {
  border: 0;
  background: none;
  color: var(--ink2);
  font-size: 18px;
  line-height: 18px;
  width: 24px;
  height: 24px;
  cursor: pointer;
}
.tabs {
  padding: 0 12px;
  border-bottom: 1px solid var(--rule2);
  flex: none;
}
.tabs :deep(.v-btn) {
  border: 0;
  min-width: 0;
  padding: 0 8px;
  color: var(--ink2);
}
.tabs :deep(.v-tab--selected) {
  color: var(--ink);
}
.body {
  flex: 1;
  overflow: auto;
  min-height: 0;
}
.body :deep(section) {
  padding: 14px 20px;
  border-bottom: 1px solid var(--rule);
}
.body :deep(section > h3) {
  margin-bottom: 8px;
}
.body :deep(.buttons) {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 10px;
}
@media (max-width: 1100px) {
  .sheet {
    width: 100%;
  }
}
</style>
