<script setup lang="ts">
import type { StepKindName } from '@night-bell/core/model/plan';
import { stepKinds } from '@night-bell/core/plan/registry';
import PlanGlyph from '../PlanGlyph.vue';
import { helpWords, shelf } from '../words.ts';

/** Kinds of steps: dragged onto a rope they are tied in there, pressed they come behind the chosen step. */
defineEmits<{ take: [event: PointerEvent, kind: StepKindName]; add: [kind: StepKindName] }>();
</script>

<template>
  <div class="shelf" role="toolbar" aria-label="Steps to tie in" aria-orientation="vertical">
    <button
      v-for="kind in shelf"
      :key="kind"
      type="button"
      :title="helpWords[kind]"
      @pointerdown="$emit('take', $event, kind)"
      @click="$emit('add', kind)"
    >
      <svg width="22" height="22" viewBox="-11 -11 22 22" aria-hidden="true">
        <PlanGlyph :kind="kind" color="var(--rope-d)" ground="var(--page)" transform="scale(.82)" />
      </svg>
      {{ stepKinds[kind].word }}
    </button>
  </div>
</template>

<style scoped>
.shelf {
  width: 158px;
  flex: none;
  overflow: auto;
  border-right: 1px solid var(--rule);
  padding: 6px 0;
}
button {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 28px;
  padding: 0 8px 0 16px;
  border: 0;
  background: none;
  color: var(--ink);
  font: 13px/18px var(--sans);
  text-align: left;
  white-space: nowrap;
  cursor: grab;
  touch-action: none;
}
svg {
  flex: none;
}
button:hover {
  background: var(--wash);
}
</style>
