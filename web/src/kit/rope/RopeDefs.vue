<script setup lang="ts">
/** The twists of the rope: two strands at 35 degrees. */
defineProps<{ id: string; whatIf: boolean }>();
</script>

<template>
  <defs>
    <pattern
      :id="`${id}-rope`"
      width="7"
      height="7"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(35)"
    >
      <rect width="7" height="7" :fill="whatIf ? 'var(--wi-d)' : 'var(--rope-d)'" />
      <rect width="3" height="7" :fill="whatIf ? 'var(--wi-l)' : 'var(--rope-l)'" />
    </pattern>
    <pattern
      :id="`${id}-sally`"
      width="10"
      height="10"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(35)"
    >
      <rect width="10" height="10" fill="var(--sal-a)" />
      <rect width="4.500" height="10" fill="var(--sal-b)" />
    </pattern>
  </defs>
</template>
