<script setup lang="ts">
import { nextTick, onMounted, watchEffect } from 'vue';
import { focusAfterJump } from '../shell/focus.ts';
import { useTurn } from './turns.ts';

/** The name of a page, what it says of itself, and what can be done; after a jump the keys are on the page. */
const props = defineProps<{ title: string; sentence: string }>();
watchEffect(() => (document.title = `${props.title} – Night Bell`));
onMounted(() => void nextTick(focusAfterJump));
const come = useTurn();
</script>

<template>
  <header class="head">
    <h1 tabindex="-1">{{ title }}</h1>
    <slot name="state" />
    <p class="second">{{ sentence }}</p>
    <div class="actions"><slot v-if="come" /></div>
  </header>
</template>

<style scoped>
.head {
  height: 60px;
  padding: 8px 20px 0;
  display: flex;
  align-items: baseline;
  gap: 16px;
  border-bottom: 3px double var(--rule2);
  flex: none;
}
h1 {
  padding-top: 12px;
  white-space: nowrap;
}
p {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-width: 0;
  flex: 1;
}
.actions {
  display: flex;
  gap: 8px;
  align-items: center;
  align-self: center;
}
@media (max-width: 760px) {
  .head {
    height: auto;
    flex-wrap: wrap;
    gap: 0 12px;
    padding-bottom: 8px;
  }
  h1 {
    white-space: normal;
  }
  p {
    flex: 1 1 100%;
    order: 3;
    white-space: normal;
  }
  .actions {
    flex-wrap: wrap;
  }
}
</style>
