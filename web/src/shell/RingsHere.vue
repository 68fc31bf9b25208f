<script setup lang="ts">
import { useRouter } from 'vue-router';
import KeyCap from '../kit/KeyCap.vue';
import Shape from '../kit/Shape.vue';
import { useKeys } from './keys.ts';

/** Whoever is rung while they look at something else is told, and is one key from where calls are answered. */
const router = useRouter();
const answer = () => void router.push('/desk');
// Only while it is shown: the key answers at the desk itself.
useKeys({ a: answer });
</script>

<template>
  <p class="rings" role="alert">
    <Shape name="ringing" /> Your phone rings.
    <button type="button" class="link" @click="answer">Answer at the desk<KeyCap>A</KeyCap></button>
  </p>
</template>

<style scoped>
.rings {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 6px 20px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule2);
  flex: none;
}
</style>
