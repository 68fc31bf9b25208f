<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api, ApiProblem, ask, ifMatch, type Person } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import NumberField from '../../kit/NumberField.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { draftOf } from '../people/words.ts';

/** A remote agent's phone: a number outside that is dialled for them, over a trunk. */
const props = defineProps<{ person: Person }>();
const emit = defineEmits<{ close: [] }>();
const setUp = useSetUp();
const notices = useNotices();
const e164 = ref('');
const trunkId = ref<string | null>(null);
const faults = ref<Record<string, string>>({});
const busy = ref(false);
const trunks = computed(() => (setUp.trunks ?? []).filter(({ retired }) => !retired));
watch(trunks, ([first]) => (trunkId.value ??= first?.id ?? null), { immediate: true });

async function give(): Promise<void> {
  if (trunkId.value === null) return;
  busy.value = true;
  faults.value = {};
  try {
    const { id, version, name } = props.person;
    const body = { ...draftOf(props.person), outsideNumber: { e164: e164.value, trunkId: trunkId.value } };
    await ask(api.PUT('/api/people/{id}', { params: { path: { id }, header: ifMatch(version) }, body }));
    await setUp.load();
    await notices.saved(`${name} is reached on ${e164.value} too.`, id);
    emit('close');
  } catch (error) {
    if (error instanceof ApiProblem && Object.keys(error.faults).length > 0) faults.value = error.faults;
    else notices.fail(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="outside" aria-label="An outside number as a phone" @submit.prevent="give">
    <p v-if="setUp.trunks !== null && trunks.length === 0" class="fault-text">
      There is no trunk yet to dial over. <router-link to="/trunks">Make one first</router-link>
    </p>
    <LedgerField label="Number" for="outside-phone" :fault="faults['/outsideNumber/e164']">
      <NumberField id="outside-phone" v-model="e164" placeholder="+1 250 555 0181" :readonly="false" />
    </LedgerField>
    <LedgerField label="Over" for="outside-phone-trunk" :fault="faults['/outsideNumber/trunkId']">
      <v-select
        id="outside-phone-trunk"
        v-model="trunkId"
        aria-label="Trunk it is dialled over"
        :items="trunks"
        item-value="id"
        item-title="name"
      />
    </LedgerField>
    <p class="small second">It rings when no phone of theirs is registered. They take a call with key 1.</p>
    <div class="buttons">
      <v-btn type="submit" variant="flat" color="primary" :loading="busy" :disabled="trunkId === null"
        >Give it</v-btn
      >
      <v-btn @click="emit('close')">Leave it</v-btn>
    </div>
  </form>
</template>

<style scoped>
.outside {
  margin-top: 10px;
}
</style>
