<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { api, ApiProblem, ask, ifMatch } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import NamedList, { type Named } from '../../kit/NamedList.vue';
import Sheet from '../../kit/Sheet.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import RecordingSettings from '../recordings/RecordingSettings.vue';
import TeamAddresses from './TeamAddresses.vue';
import TakeOut from '../../kit/TakeOut.vue';

/** What all agents share: teams, skills, reasons to be away, seats. */
const emit = defineEmits<{ close: [] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const tab = ref(0);
const reasons = ref<{ word: string }[]>([]);
const seats = ref('');
const faults = ref<Record<string, string>>({});
const busy = ref(false);

const skills = computed(() => setUp.skills.filter((skill) => !skill.retired));
const settings = computed(() => setUp.agentSettings);

function begin(): void {
  reasons.value = (settings.value?.awayReasons ?? []).map((word) => ({ word }));
  seats.value = settings.value?.seats?.toString() ?? '';
  faults.value = {};
}
watch(settings, begin, { immediate: true });

const words = computed(() => reasons.value.map(({ word }) => word.trim()).filter((word) => word !== ''));
const wantedSeats = computed(() => (seats.value.trim() === '' ? null : Number(seats.value)));
const changed = computed(
  () =>
    JSON.stringify(words.value) !== JSON.stringify(settings.value?.awayReasons) ||
    wantedSeats.value !== (settings.value?.seats ?? null),
);

async function save(): Promise<void> {
  busy.value = true;
  try {
    await ask(
      api.PUT('/api/agent-settings', {
        body: { seats: wantedSeats.value as number, awayReasons: words.value },
      }),
    );
    await setUp.load();
    notices.say('The agent settings are saved.');
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    faults.value = error.faults;
    if (Object.keys(error.faults).length === 0) notices.fail(error);
  } finally {
    busy.value = false;
  }
}

async function act(work: () => Promise<unknown>): Promise<void> {
  await work().catch(notices.fail);
  await setUp.load();
}
const guarded = (item: Named) => ({ params: { path: { id: item.id }, header: ifMatch(item.version) } });

const teams = {
  make: (name: string) => act(() => ask(api.POST('/api/teams', { body: { name } }))),
  rename: (item: Named, name: string) =>
    act(async () => {
      const { emergencyAddress } = setUp.teams.find((team) => team.id === item.id)!;
      const body = { name, emergencyAddress: emergencyAddress as never };
      await ask(api.PUT('/api/teams/{id}', { ...guarded(item), body }));
      await notices.saved(`${item.name} is now called ${name}.`, item.id);
    }),
  retire: (item: Named) =>
    act(async () => {
      await ask(api.POST('/api/teams/{id}/retire', guarded(item)));
      notices.say(`${item.name} is deactivated.`);
    }),
};
const abilities = {
  make: (name: string) => act(() => ask(api.POST('/api/skills', { body: { name } }))),
  rename: (item: Named, name: string) =>
    act(async () => {
      await ask(api.PUT('/api/skills/{id}', { ...guarded(item), body: { name } }));
      await notices.saved(`${item.name} is now called ${name}.`, item.id);
    }),
  retire: (item: Named) =>
    act(async () => {
      await ask(api.POST('/api/skills/{id}/retire', guarded(item)));
      notices.say(`${item.name} is deactivated.`);
    }),
};
</script>

<template>
  <Sheet
    v-model:tab="tab"
    title="Agent settings"
    second="What all agents share"
    :tabs="['Teams', 'Skills', 'Away reasons', 'Seats', 'Recording']"
    @close="emit('close')"
  >
    <template v-if="tab === 0">
      <section>
        <NamedList
          :items="setUp.teams"
          one="team"
          :readonly="!session.mayEdit"
          @make="teams.make"
          @rename="teams.rename"
          @retire="teams.retire"
        />
      </section>
      <TeamAddresses />
    </template>
    <section v-else-if="tab === 1">
      <p class="second lead">
        A level from 1 to 5 stands on the person. A queue may ask for a minimum; who has less is not rung.
      </p>
      <NamedList
        :items="skills"
        one="skill"
        :readonly="!session.mayEdit"
        @make="abilities.make"
        @rename="abilities.rename"
        @retire="abilities.retire"
      />
    </section>
    <section v-else-if="tab === 2">
      <p class="second lead">Agents choose one of these when they go away, in this order.</p>
      <VueDraggable v-model="reasons" tag="ul" handle=".handle" :disabled="!session.mayEdit">
        <li v-for="(reason, index) in reasons" :key="index">
          <span class="mono second handle" title="Drag to reorder">{{ index + 1 }}</span>
          <input v-model="reason.word" :aria-label="`Reason ${index + 1}`" :readonly="!session.mayEdit" />
          <TakeOut
            v-if="session.mayEdit"
            :what="`Take ${reason.word} out`"
            @click="reasons.splice(index, 1)"
          />
          <p v-if="faults[`/awayReasons/${index}`]" class="fault-text small">
            {{ faults[`/awayReasons/${index}`] }}
          </p>
        </li>
      </VueDraggable>
      <p v-if="faults['/awayReasons']" class="fault-text small">{{ faults['/awayReasons'] }}</p>
      <div v-if="session.mayEdit" class="buttons">
        <v-btn @click="reasons.push({ word: '' })">Another reason</v-btn>
      </div>
    </section>
    <RecordingSettings v-else-if="tab === 4" />
    <section v-else>
      <LedgerField
        label="Rented seats"
        for="rented-seats"
        :fault="faults['/seats']"
        hint="Agents who may be signed in at once. At the limit nobody more signs in; nobody is signed out. Empty: no limit."
      >
        <v-text-field
          id="rented-seats"
          v-model="seats"
          class="mono"
          placeholder="no limit"
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <LedgerField label="In use">
        <span class="mono">{{ settings?.seatsUsed ?? 0 }}</span>
      </LedgerField>
    </section>
    <section v-if="session.mayEdit && changed">
      <div class="buttons flat">
        <v-btn variant="flat" color="primary" :loading="busy" @click="save">Save</v-btn>
        <v-btn @click="begin">Leave as it was</v-btn>
      </div>
    </section>
  </Sheet>
</template>

<style scoped>
.lead {
  margin-bottom: 8px;
}
li {
  display: grid;
  grid-template-columns: 20px 1fr 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 30px;
}
li p {
  grid-column: 2 / -1;
}
.handle {
  cursor: grab;
  text-align: right;
}
li input {
  border: 0;
  background: none;
  color: inherit;
  height: 26px;
  min-width: 0;
}
.flat {
  margin-top: 0;
}
</style>
