<script setup lang="ts" generic="Draft extends object">
import type { Conflict } from './editing.ts';
import Shape from './Shape.vue';

/** Both versions, field by field, and the two ways on. */
defineProps<{
  conflict: Conflict<Draft>;
  mine: Draft;
  words: Record<string, string>;
  show: (field: string, value: unknown) => string;
}>();
const valueOf = (draft: Draft, field: string) => (draft as Record<string, unknown>)[field];
const emit = defineEmits<{ mine: []; theirs: [] }>();
</script>

<template>
  <section class="conflict" role="alert">
    <h3><Shape name="fault" /> {{ conflict.by }} changed this while you were at it</h3>
    <p class="small second">Nothing is lost. Where the two versions differ:</p>
    <table>
      <thead>
        <tr>
          <td></td>
          <th>Yours</th>
          <th>Theirs, saved</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="field in conflict.fields" :key="field">
          <td class="second">{{ words[field] ?? field }}</td>
          <td>{{ show(field, valueOf(mine, field)) }}</td>
          <td>{{ show(field, valueOf(conflict.theirs, field)) }}</td>
        </tr>
      </tbody>
    </table>
    <div class="buttons">
      <v-btn @click="emit('mine')">Save mine over theirs</v-btn>
      <v-btn @click="emit('theirs')">Take theirs</v-btn>
    </div>
  </section>
</template>

<style scoped>
.conflict {
  background: var(--wash);
}
table {
  width: 100%;
  margin-top: 8px;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-size: 12px;
  border-bottom: 1px solid var(--rule2);
}
td,
th {
  padding: 3px 8px 3px 0;
  vertical-align: top;
}
</style>
