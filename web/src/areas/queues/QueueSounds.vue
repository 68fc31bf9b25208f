<script setup lang="ts">
import type { QueueRequest } from '@night-bell/core/contracts/queues';
import { announcementSeconds } from '@night-bell/core/model/waiting';
import FlagLine from '../../kit/FlagLine.vue';
import FormLine from '../../kit/FormLine.vue';
import FormSentence from '../../kit/FormSentence.vue';
import SentenceField from '../../kit/SentenceField.vue';
import ThingField from '../../kit/ThingField.vue';

/** What callers hear while they wait. */
const draft = defineModel<QueueRequest>({ required: true });
</script>

<template>
  <section>
    <h3>What callers hear</h3>
    <FormLine v-slot="{ id, readonly }" field="musicId" label="Music">
      <ThingField
        :id="id"
        v-model="draft.musicId"
        label="Music"
        :kinds="['prompt']"
        none="the house's own"
        :readonly="readonly"
      />
    </FormLine>
    <FormSentence :fields="['announceSeconds', 'tellsPlace']">
      Every
      <SentenceField
        v-model="draft.announceSeconds"
        field="announceSeconds"
        :label="`Seconds between announcements, ${announcementSeconds.least} to ${announcementSeconds.most}; empty for none`"
        any
        placeholder="never"
        :size="5"
      />
      s they are told something.
    </FormSentence>
    <template v-if="draft.announceSeconds !== null">
      <FormLine v-slot="{ id, readonly }" field="announcementId" label="Prompt">
        <ThingField
          :id="id"
          v-model="draft.announcementId"
          label="Prompt that is said"
          :kinds="['prompt']"
          none="none"
          :readonly="readonly"
        />
      </FormLine>
      <FlagLine v-model="draft.tellsPlace" label="Their place in line" />
      <FlagLine v-model="draft.tellsWait" label="How long it may take, where that can be known" />
    </template>
  </section>
</template>
