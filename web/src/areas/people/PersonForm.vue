<script setup lang="ts">
import { money } from '../../kit/money.ts';
import { computed, watch } from 'vue';
import { priceFor } from '@night-bell/core/dialling/price';
import { api, ask, ifMatch, type Person } from '../../api/client.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import { provideForm } from '../../kit/form.ts';
import FormEnd from '../../kit/FormEnd.vue';
import NumberField from '../../kit/NumberField.vue';
import LedgerField from '../../kit/LedgerField.vue';
import SkillsField from '../../kit/SkillsField.vue';
import { roleWords } from '../../kit/words.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import NoAnswerField from './NoAnswerField.vue';
import TeamField from './TeamField.vue';
import { draftOf, elsewhereWords, type PersonDraft, personWords, showPerson } from './words.ts';

/** What of a person can be changed. */
const props = defineProps<{ person: Person }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const show = showPerson(setUp.nameOf);
const roles = Object.entries(roleWords).map(([value, title]) => ({ value, title }));
const elsewhere = Object.entries(elsewhereWords).map(([value, title]) => ({ value, title }));

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<PersonDraft>(async (value, version) => {
    const params = { path: { id: props.person.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/people/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.person.id);
  });
provideForm(() => ({ kind: 'person', faults: faults.value, readonly: !session.mayEdit }));

// Somebody's later version is taken at once unless something here is unsaved; then saving tells.
watch(
  () => props.person,
  (person) => {
    if (!changed.value) begin(draftOf(person), person.version);
  },
  { immediate: true },
);

function reachOutside(on: boolean): void {
  const first = (setUp.trunks ?? []).find((each) => !each.retired);
  if (on && first === undefined) {
    notices.say('There is no trunk yet to dial over. Make one first, under Trunks.');
    return;
  }
  if (draft.value !== null) draft.value.outsideNumber = on ? { e164: '', trunkId: first!.id } : null;
}

/** What being reached outside costs. */
const costWords = computed(() => {
  const outside = draft.value?.outsideNumber;
  const trunk = setUp.trunkById.get(outside?.trunkId ?? '');
  if (outside == null || trunk === undefined) return '';
  const price = priceFor(trunk.prices, outside.e164.replace(/[^\d+]/g, ''));
  return price === null
    ? `What ${trunk.name} costs is not known.`
    : `Each minute costs ${money(price.perMinute)} over ${trunk.name}.`;
});

/** An empty field leaves the queue's own wrap-up. */
function wrapUp(text: string): number | null {
  return text.trim() === '' ? null : Number(text);
}
</script>

<template>
  <template v-if="draft">
    <ConflictNote
      v-if="conflict"
      :conflict="conflict"
      :mine="draft"
      :words="personWords"
      :show="show"
      @mine="keepMine"
      @theirs="takeTheirs"
    />

    <form @submit.prevent="save">
      <section>
        <LedgerField label="Name" for="sheet-name" :fault="faults['/name']">
          <v-text-field
            id="sheet-name"
            v-model="draft.name"
            :readonly="!session.mayEdit"
            autocomplete="off"
          />
        </LedgerField>
        <LedgerField label="Team" for="sheet-team" :fault="faults['/teamId']">
          <TeamField id="sheet-team" v-model="draft.teamId" :readonly="!session.mayEdit" />
        </LedgerField>
        <LedgerField label="Role" for="sheet-role" :fault="faults['/role']">
          <v-select id="sheet-role" v-model="draft.role" :items="roles" :readonly="!session.mayEdit" />
        </LedgerField>
        <LedgerField
          label="Signs in as"
          for="sheet-login"
          :fault="faults['/login']"
          :hint="person.hasOwnPassword ? '' : 'No password of their own yet'"
        >
          <v-text-field
            id="sheet-login"
            v-model="draft.login"
            class="mono"
            :readonly="!session.mayEdit"
            autocomplete="off"
          />
        </LedgerField>
        <LedgerField label="Mail" for="sheet-mail" :fault="faults['/mail']">
          <v-text-field
            id="sheet-mail"
            placeholder="none"
            :model-value="draft.mail ?? ''"
            :readonly="!session.mayEdit"
            autocomplete="off"
            @update:model-value="draft.mail = $event === '' ? null : $event"
          />
        </LedgerField>
        <LedgerField label="Extension" for="sheet-extension" :fault="faults['/extension']">
          <v-text-field
            id="sheet-extension"
            v-model="draft.extension"
            class="mono"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
      </section>
      <section>
        <p class="settings">
          Takes
          <input
            v-model.number="draft.callLimit"
            type="number"
            min="1"
            max="5"
            aria-label="Calls at once"
            :readonly="!session.mayEdit"
          />
          call{{ draft.callLimit === 1 ? '' : 's' }} at once; rings
          <input
            v-model.number="draft.ringSeconds"
            type="number"
            min="5"
            max="120"
            aria-label="Seconds it rings"
            :readonly="!session.mayEdit"
          />
          s when called directly. After a queue's call
          <input
            :value="draft.wrapUpSeconds ?? ''"
            type="number"
            min="0"
            placeholder="queue's"
            aria-label="Own wrap-up in seconds"
            :readonly="!session.mayEdit"
            class="wide"
            @input="draft.wrapUpSeconds = wrapUp(($event.target as HTMLInputElement).value)"
          />
          s of wrap-up.
        </p>
        <p v-for="path in ['/callLimit', '/ringSeconds', '/wrapUpSeconds']" :key="path" class="fault-text">
          {{ faults[path] }}
        </p>
        <v-checkbox
          v-model="draft.signInWithPhone"
          :readonly="!session.mayEdit"
          label="Signed in when the phone registers"
        />
        <v-checkbox
          v-model="draft.startAway"
          :readonly="!session.mayEdit"
          label="Starts away, until they say they are ready"
        />
        <v-checkbox
          v-model="draft.answerBySelf"
          :readonly="!session.mayEdit"
          label="The phone answers by itself"
        />
        <v-checkbox
          :model-value="draft.outsideNumber !== null"
          :disabled="setUp.trunks === null"
          :readonly="!session.mayEdit"
          label="Also reached on an outside number"
          @update:model-value="reachOutside($event === true)"
        />
        <div v-if="draft.outsideNumber" class="outside">
          <LedgerField
            label="Number"
            for="sheet-outside"
            :fault="faults['/outsideNumber/e164']"
            :hint="`Rung when no phone is registered, or when chosen at the desk. ${costWords}`"
          >
            <NumberField
              id="sheet-outside"
              v-model="draft.outsideNumber.e164"
              placeholder="+1 250 555 0181"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
          <LedgerField label="Over" for="sheet-outside-trunk" :fault="faults['/outsideNumber/trunkId']">
            <v-select
              id="sheet-outside-trunk"
              v-model="draft.outsideNumber.trunkId"
              :items="(setUp.trunks ?? []).filter((each) => !each.retired)"
              item-value="id"
              item-title="name"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
        </div>
      </section>
      <section>
        <LedgerField label="Nobody lifts" for="sheet-no-answer" :fault="faults['/noAnswer']">
          <NoAnswerField
            v-model="draft.noAnswer"
            :person-id="person.id"
            :faults="faults"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
        <LedgerField
          label="Elsewhere"
          for="sheet-elsewhere"
          hint="When they sign in while they are still signed in somewhere else."
        >
          <v-select
            id="sheet-elsewhere"
            v-model="draft.elsewhere"
            :items="elsewhere"
            :readonly="!session.mayEdit"
          />
        </LedgerField>
      </section>
      <section>
        <h3>Skills</h3>
        <SkillsField
          v-model="draft.skills"
          figure="level"
          none="None. Queues that ask for a skill do not ring this person."
        />
        <template v-if="draft.role === 'supervisor'">
          <h3 class="after">Looks after</h3>
          <v-autocomplete
            v-model="draft.looksAfter"
            multiple
            chips
            closable-chips
            aria-label="Teams this supervisor looks after"
            placeholder="everybody; name teams to narrow it"
            :items="setUp.teams"
            item-value="id"
            item-title="name"
            :readonly="!session.mayEdit"
          />
        </template>
        <FormEnd
          :general="general"
          :saving="saving"
          :changed="changed"
          @leave="begin(draftOf(person), person.version)"
        />
      </section>
    </form>
  </template>
</template>

<style scoped>
.settings {
  line-height: 28px;
}
.settings input {
  width: 44px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 0 2px;
  font-family: var(--mono) !important;
}
.settings .wide {
  width: 78px;
}
.outside {
  border-left: 1px solid var(--rule);
  padding-left: 10px;
}
.after {
  margin-top: 12px;
}
</style>
