<script setup lang="ts">
import { computed, ref } from 'vue';
import { addressWords, type EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { api, ask, ifMatch } from '../../api/client.ts';
import AddressField from '../../kit/AddressField.vue';
import { useEditing } from '../../kit/editing.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** Where help is sent when somebody of a team dials an emergency number on a phone without an address of its own. */
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const chosen = ref<string | null>(null);
const team = computed(() => setUp.teams.find((each) => each.id === chosen.value));

const { draft, faults, general, saving, begin, save } = useEditing<{
  emergencyAddress: EmergencyAddress | null;
}>(async ({ emergencyAddress }, version) => {
  const { id, name } = team.value!;
  const params = { path: { id }, header: ifMatch(version) };
  await ask(
    api.PUT('/api/teams/{id}', { params, body: { name, emergencyAddress: emergencyAddress as never } }),
  );
  await setUp.load();
  await notices.saved(
    emergencyAddress === null ? `${name} has no address.` : `Help for ${name} is sent there.`,
    id,
  );
  chosen.value = null;
});

const none: EmergencyAddress = { street: '', unit: '', city: '', region: '', postalCode: '', country: 'US' };
function open(id: string): void {
  const { emergencyAddress, version } = setUp.teams.find((each) => each.id === id)!;
  chosen.value = id;
  begin({ emergencyAddress: { ...((emergencyAddress as EmergencyAddress | null) ?? none) } }, version);
}
function withoutAddress(): void {
  draft.value!.emergencyAddress = null;
  void save();
}
</script>

<template>
  <section>
    <h3>Where help is sent <span class="second small">unless a phone has an address of its own</span></h3>
    <ul>
      <li v-for="each in setUp.teams" :key="each.id">
        <button
          v-if="session.mayEdit"
          type="button"
          :aria-expanded="each.id === chosen"
          @click="open(each.id)"
        >
          {{ each.name }}
        </button>
        <span v-else>{{ each.name }}</span>
        <span :class="each.emergencyAddress ? 'second' : 'fault-text'">{{
          each.emergencyAddress ? addressWords(each.emergencyAddress as EmergencyAddress) : 'no address yet'
        }}</span>
        <form v-if="each.id === chosen && draft" @submit.prevent="save">
          <AddressField
            v-if="draft.emergencyAddress"
            id="team-address"
            v-model="draft.emergencyAddress"
            :readonly="false"
            :faults="faults"
            path="/emergencyAddress"
          />
          <p v-if="general" class="fault-text" role="alert">{{ general }}</p>
          <div class="buttons">
            <v-btn type="submit" variant="flat" color="primary" :loading="saving">Save</v-btn>
            <v-btn v-if="each.emergencyAddress" @click="withoutAddress">No address</v-btn>
            <v-btn @click="chosen = null">Leave as it was</v-btn>
          </div>
        </form>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
li {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 2px 10px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
  padding: 5px 0;
}
li button[aria-expanded] {
  border: 0;
  background: none;
  color: inherit;
  padding: 0;
  text-align: left;
  cursor: pointer;
  text-decoration: underline;
  text-decoration-color: var(--rule2);
  text-underline-offset: 3px;
}
form {
  grid-column: 1 / -1;
  padding: 8px 0;
}
</style>
