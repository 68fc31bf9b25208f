<script setup lang="ts">
import PageHead from '../kit/PageHead.vue';
</script>

<template>
  <PageHead title="No such page" sentence="The address leads nowhere. Choose from the index at the left." />
</template>
