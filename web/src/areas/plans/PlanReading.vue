<script setup lang="ts">
import { computed } from 'vue';
import type { PlanDocument } from '@night-bell/core/plan/document';
import type { ItemKind } from '@night-bell/core/plan/fields';
import { compared, sentencesOf } from '@night-bell/core/plan/reading';

/** A plan in plain sentences, to hand to somebody; beside a version, what differs is marked. */
const props = defineProps<{
  name: string;
  document: PlanDocument;
  beside: { version: number; document: PlanDocument } | null;
  nameOf: (kind: ItemKind, id: string) => string;
}>();
const lines = computed(() => {
  const now = sentencesOf(props.document, props.nameOf);
  return compared(props.beside === null ? now : sentencesOf(props.beside.document, props.nameOf), now);
});
const differing = computed(() => lines.value.filter(({ change }) => change !== 'same').length);
const print = () => window.print();
</script>

<template>
  <section class="reading" :aria-label="`${name} in sentences`">
    <header>
      <h2>{{ name }}</h2>
      <span v-if="beside" class="second"
        >{{ differing === 0 ? 'the same as' : `${differing} lines differ from` }} version
        {{ beside.version }}</span
      >
      <v-btn size="small" @click="print">Print</v-btn>
    </header>
    <p
      v-for="(line, index) in lines"
      :key="index"
      :class="line.change"
      :style="{ paddingLeft: `${line.depth * 28}px` }"
    >
      <component :is="line.change === 'gone' ? 'del' : line.change === 'new' ? 'ins' : 'span'">{{
        line.text
      }}</component>
    </p>
  </section>
</template>

<style scoped>
.reading {
  flex: 1;
  overflow: auto;
  padding: 16px 20px;
  font-size: 15px;
  line-height: 26px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 16px;
  margin-bottom: 8px;
}
.new ins {
  color: var(--plum);
  text-decoration-thickness: 1px;
}
.gone del {
  color: var(--ink2);
}
@media print {
  .reading {
    position: fixed;
    inset: 0;
    background: white;
    color: black;
    overflow: visible;
    z-index: 1000;
  }
  header :deep(.v-btn) {
    display: none;
  }
}
</style>
