<script setup lang="ts">
import type { UsedBy } from '../api/client.ts';

/** Everything that leads here, each with its link. */
defineProps<{ users: readonly UsedBy[]; none: string }>();

const paths: Record<string, string> = {
  person: '/people/',
  queue: '/queues/',
  number: '/numbers/',
  campaign: '/campaigns/',
  plan: '/answering/',
};
</script>

<template>
  <section>
    <p v-if="users.length === 0" class="second">{{ none }}</p>
    <ul>
      <li v-for="user in users" :key="user.id + user.how">
        <router-link v-if="paths[user.kind]" :to="paths[user.kind] + user.id">{{ user.name }}</router-link>
        <span v-else>{{ user.name }}</span>
        <span class="second">{{ user.kind }}, {{ user.how }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
</style>
