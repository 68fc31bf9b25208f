<script setup lang="ts">
import { ref } from 'vue';

export interface Named {
  id: string;
  version: number;
  name: string;
  people: number;
}

/** Things that are little more than a name: renamed where they stand, made at the foot, deactivated when unused. */
defineProps<{ items: Named[]; one: string; readonly: boolean }>();
const emit = defineEmits<{
  rename: [item: Named, name: string];
  retire: [item: Named];
  make: [name: string];
}>();
const fresh = ref('');

function make(): void {
  emit('make', fresh.value.trim());
  fresh.value = '';
}
</script>

<template>
  <div>
    <ul>
      <li v-for="item in items" :key="item.id">
        <input
          :value="item.name"
          :aria-label="`Name of ${item.name}`"
          :readonly="readonly"
          @change="emit('rename', item, ($event.target as HTMLInputElement).value)"
        />
        <span class="mono second">{{ item.people }}</span>
        <button
          v-if="!readonly && item.people === 0"
          class="link"
          type="button"
          @click="emit('retire', item)"
        >
          Deactivate
        </button>
        <span v-else class="small second">{{ item.people === 1 ? 'person' : 'people' }}</span>
      </li>
    </ul>
    <p v-if="items.length === 0" class="second">None yet.</p>
    <form v-if="!readonly" class="new" @submit.prevent="make">
      <input v-model="fresh" :aria-label="`Name of a new ${one}`" :placeholder="`Name of a new ${one}`" />
      <v-btn type="submit" :disabled="fresh.trim() === ''">Make {{ one }}</v-btn>
    </form>
  </div>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 1fr 32px 76px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  height: 30px;
}
.mono {
  text-align: right;
}
input {
  border: 0;
  background: none;
  color: inherit;
  height: 26px;
  min-width: 0;
}
.new {
  display: flex;
  gap: 12px;
  margin-top: 14px;
}
.new input {
  flex: 1;
  border-bottom: 1px solid var(--rule2);
}
</style>
