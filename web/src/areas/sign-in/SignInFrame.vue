<script setup lang="ts">
defineProps<{ title: string; sentence: string }>();
</script>

<template>
  <div class="ground">
    <main>
      <svg width="20" height="96" viewBox="0 0 20 96" aria-hidden="true">
        <path d="M10 0v34M10 62v12" stroke="var(--rope-d)" stroke-width="3" />
        <rect x="2" y="30" width="16" height="34" rx="8" fill="var(--sal-b)" stroke="var(--sal-a)" />
        <path
          d="M3 43 17 34M2.500 52 17.500 42M3 60 18 50M8 64 18 58"
          stroke="var(--sal-a)"
          stroke-width="3.600"
        />
        <circle cx="10" cy="79" r="4.500" fill="none" stroke="var(--rope-d)" stroke-width="2.600" />
      </svg>
      <div class="words">
        <h1>{{ title }}</h1>
        <p class="second">{{ sentence }}</p>
        <slot />
      </div>
    </main>
  </div>
</template>

<style scoped>
.ground {
  height: 100vh;
  overflow: auto;
}
main {
  display: grid;
  grid-template-columns: 20px 440px;
  gap: 28px;
  width: max-content;
  margin: 0 auto;
}
.words {
  padding: 84px 0 40px;
}
.words > p {
  padding: 4px 0 20px;
}
</style>
