<script setup lang="ts">
import { ref } from 'vue';
import { api, ask, ifMatch, type Team } from '../../api/client.ts';
import Sheet from '../../kit/Sheet.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';

const emit = defineEmits<{ close: [] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const fresh = ref('');

async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
    await setUp.load();
  } catch (error) {
    notices.fail(error);
    await setUp.load();
  }
}

const make = () =>
  act(async () => {
    await ask(api.POST('/api/teams', { body: { name: fresh.value } }));
    fresh.value = '';
  });

const rename = (team: Team, name: string) =>
  act(async () => {
    if (name === team.name) return;
    await ask(
      api.PUT('/api/teams/{id}', {
        params: { path: { id: team.id }, header: ifMatch(team.version) },
        body: { name },
      }),
    );
    await notices.saved(`${team.name} is now called ${name}.`, team.id);
  });

const retire = (team: Team) =>
  act(async () => {
    await ask(
      api.POST('/api/teams/{id}/retire', {
        params: { path: { id: team.id }, header: ifMatch(team.version) },
      }),
    );
    notices.say(`${team.name} is deactivated.`);
  });
</script>

<template>
  <Sheet title="Teams" :second="`${setUp.teams.length} teams`" @close="emit('close')">
    <section>
      <ul>
        <li v-for="team in setUp.teams" :key="team.id">
          <input
            :value="team.name"
            :aria-label="`Name of ${team.name}`"
            :readonly="!session.mayEdit"
            @change="rename(team, ($event.target as HTMLInputElement).value)"
          />
          <span class="mono second">{{ team.people }}</span>
          <button
            v-if="session.mayEdit && team.people === 0"
            class="link"
            type="button"
            @click="retire(team)"
          >
            Deactivate
          </button>
          <span v-else class="small second">{{ team.people === 1 ? 'person' : 'people' }}</span>
        </li>
      </ul>
      <form v-if="session.mayEdit" class="new" @submit.prevent="make">
        <input v-model="fresh" aria-label="Name of a new team" placeholder="Name of a new team" />
        <v-btn type="submit" :disabled="fresh.trim() === ''">Make team</v-btn>
      </form>
    </section>
  </Sheet>
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
