<script setup lang="ts">
import { ref } from 'vue';
import Shape from '../../kit/Shape.vue';
import { useSetUp } from '../../shell/set-up.ts';

/** How many people come in: pasted, from a file, or counted. */
defineProps<{ fault: string; busy: boolean }>();
const emit = defineEmits<{ read: []; count: []; file: [file: File | undefined] }>();
const text = defineModel<string>({ required: true });
const range = defineModel<{ count: number; from: number; team: string; word: string }>('range', {
  required: true,
});
const setUp = useSetUp();
const picker = ref<HTMLInputElement | null>(null);
const drop = (event: DragEvent) => emit('file', event.dataTransfer?.files[0]);
</script>

<template>
  <div class="enter" @dragover.prevent @drop.prevent="drop">
    <section>
      <h2>Paste rows, or bring a file</h2>
      <p class="second">
        One person a row: name, team, extension, login, role. With a first row of column names, in any order,
        and also the model of their phone and a mail address for their codes. Only the name is needed; the
        rest is proposed.
      </p>
      <textarea
        v-model="text"
        rows="10"
        class="mono"
        aria-label="Rows"
        placeholder="name,team,phone model,mail&#10;Ann Lee,Bookings,desk 6,ann@ferries.example&#10;Bo Ray,Bookings"
      ></textarea>
      <input
        ref="picker"
        class="unseen"
        type="file"
        accept=".csv,.txt,.tsv,.xlsx,text/*"
        aria-label="File"
        @change="emit('file', ($event.target as HTMLInputElement).files?.[0])"
      />
      <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
      <div class="buttons">
        <v-btn
          variant="flat"
          color="primary"
          :loading="busy"
          :disabled="text.trim() === ''"
          @click="emit('read')"
          >Look at them</v-btn
        >
        <v-btn @click="picker?.click()">Choose a file</v-btn>
        <span class="second">or drop one here</span>
      </div>
    </section>
    <section>
      <h2>Or count them</h2>
      <form class="sentence" @submit.prevent="emit('count')">
        <input v-model="range.count" class="short mono" inputmode="numeric" aria-label="How many" />
        people called
        <input v-model="range.word" class="word" aria-label="Called" />
        and their extension, from
        <input v-model="range.from" class="short mono" inputmode="numeric" aria-label="First extension" />
        on, in team
        <input
          v-model="range.team"
          class="word"
          placeholder="none"
          aria-label="Team of all"
          list="known-teams"
        />
        <datalist id="known-teams">
          <option v-for="team in setUp.teams" :key="team.id" :value="team.name" />
        </datalist>
        <v-btn type="submit" :loading="busy">Look at them</v-btn>
      </form>
    </section>
  </div>
</template>

<style scoped>
.enter {
  flex: 1;
  overflow: auto;
}
.enter section {
  padding: 18px 20px;
  border-bottom: 1px solid var(--rule);
  max-width: 900px;
}
textarea {
  width: 100%;
  margin: 10px 0 8px;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 6px 8px;
  resize: vertical;
}
.unseen {
  display: none;
}
.buttons {
  display: flex;
  gap: 10px;
  align-items: center;
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  padding: 10px 0 0;
}
.sentence input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 26px;
  padding: 0 4px;
}
.short {
  width: 64px;
}
.word {
  width: 130px;
}
</style>
