<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import EmptyLine from '../../kit/EmptyLine.vue';
import Shape from '../../kit/Shape.vue';
import { useVoicemail } from '../../shell/voicemail.ts';
import MessageList from './MessageList.vue';
import { shortName } from './words.ts';

/** The boxes I hear, at the desk: those with new messages are open to be heard. */
const { boxes, failed, load } = useVoicemail();
const chosenId = ref<string | null>(null);
const shown = computed(() =>
  (boxes.value ?? []).filter((box) => box.own || box.held > 0 || box.id === chosenId.value),
);
const chosen = computed(() => shown.value.find(({ id }) => id === chosenId.value) ?? null);

watch(
  boxes,
  (now) => {
    if (chosenId.value === null) chosenId.value = now?.find(({ fresh }) => fresh > 0)?.id ?? null;
  },
  { immediate: true },
);
</script>

<template>
  <section class="desk-messages">
    <h3>Messages</h3>
    <EmptyLine v-if="failed" text="They could not be read."
      ><v-btn @click="load()">Read them again</v-btn></EmptyLine
    >
    <p v-else-if="boxes && shown.length === 0" class="second">None, and no box of yours.</p>
    <ul>
      <li v-for="box in shown" :key="box.id">
        <button
          class="list-row"
          type="button"
          :aria-expanded="box.id === chosenId"
          @click="chosenId = box.id === chosenId ? null : box.id"
        >
          <Shape :name="box.fresh > 0 ? 'messageNew' : 'messageHeard'" />
          <span class="name" :class="{ fresh: box.fresh > 0 }">{{
            box.own ? 'My box' : shortName(box.name)
          }}</span>
          <span class="mono second">{{
            box.fresh > 0 ? `${box.fresh} new` : box.held === 0 ? '–' : box.held
          }}</span>
        </button>
        <MessageList v-if="chosen && box.id === chosenId" :box-id="box.id" class="inside" />
      </li>
    </ul>
  </section>
</template>

<style scoped>
.list-row {
  grid-template-columns: 14px 1fr auto;
  align-items: center;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name.fresh {
  font-weight: 600;
}
.inside {
  margin: 0 -16px;
  max-height: 420px;
}
.inside :deep(header h2) {
  display: none;
}
</style>
