<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { api, ask, ifMatch, type Rule, type RuleWarning } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Shape from '../../kit/Shape.vue';
import Sheet from '../../kit/Sheet.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import RuleTester from './RuleTester.vue';
import { draftOf, type RuleDraft, ruleWords, showRule, useWords, warningWords } from './words.ts';

/** One dialling rule, tried while it is written. */
const props = defineProps<{ rule: Rule | null; warnings: RuleWarning[] }>();
const emit = defineEmits<{ close: []; made: [rule: Rule] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const act = useActing();
const tab = ref(0);
const uses = Object.entries(useWords).map(([value, title]) => ({ value, title }));

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<RuleDraft>(async (value, version) => {
    if (props.rule === null) {
      const made = await ask(api.POST('/api/dialling-rules', { body: value }));
      await setUp.load();
      notices.say(`${made.name} is made.`);
      emit('made', made);
      return;
    }
    const params = { path: { id: props.rule.id }, header: ifMatch(version) };
    await ask(api.PUT('/api/dialling-rules/{id}', { params, body: value }));
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.rule.id);
  });
watch(
  () => props.rule,
  (rule) => {
    if (!changed.value) begin(draftOf(rule), rule?.version ?? 0);
  },
  { immediate: true },
);

const free = computed(() =>
  (setUp.trunks ?? []).filter((trunk) => !trunk.retired && !draft.value!.trunkIds.includes(trunk.id)),
);
function addTrunk(id: string | null): void {
  if (id !== null) draft.value!.trunkIds.push(id);
}

const guarded = () => ({ params: { path: { id: props.rule!.id }, header: ifMatch(props.rule!.version) } });
const retire = () =>
  act(
    () => ask(api.POST('/api/dialling-rules/{id}/retire', guarded())),
    `${props.rule!.name} is deactivated.`,
  );
const reactivate = () =>
  act(() => ask(api.POST('/api/dialling-rules/{id}/reactivate', guarded())), `${props.rule!.name} is back.`);
</script>

<template>
  <Sheet
    :fresh="rule === null"
    v-model:tab="tab"
    :title="rule?.name ?? 'New dialling rule'"
    second="What was dialled, and what goes out"
    :tabs="rule === null ? [] : ['Rule', 'History']"
    @close="emit('close')"
  >
    <template v-if="tab === 0 && draft">
      <section v-if="warnings.length > 0">
        <p v-for="warning in warnings" :key="warning.kind" class="fault-text">
          <Shape name="fault" /> {{ warningWords(warning, setUp.nameOf) }}
        </p>
      </section>
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="ruleWords"
        :show="showRule(setUp.nameOf)"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" for="rule-name" :fault="faults['/name']">
            <v-text-field
              id="rule-name"
              v-model="draft.name"
              :readonly="!session.mayEdit"
              :autofocus="rule === null"
              autocomplete="off"
            />
          </LedgerField>
          <LedgerField
            label="Pattern"
            for="rule-pattern"
            :fault="faults['/pattern']"
            hint="x any digit, N 2 to 9, [2-47] a set, a final dot repeats. The whole must fit."
          >
            <v-text-field
              id="rule-pattern"
              v-model="draft.pattern"
              class="mono"
              placeholder="NxxNxxxxxx"
              :readonly="!session.mayEdit"
              autocomplete="off"
            />
          </LedgerField>
          <p class="settings">
            Leave out the first
            <input
              v-model.number="draft.strip"
              type="number"
              min="0"
              aria-label="How many symbols are left out"
              :readonly="!session.mayEdit"
            />, put
            <input
              v-model="draft.prepend"
              class="wide"
              placeholder="nothing"
              aria-label="What is put in front"
              :readonly="!session.mayEdit"
            />
            in front.
          </p>
          <p v-for="path in ['/strip', '/prepend', '/']" :key="path" class="fault-text">{{ faults[path] }}</p>
        </section>
        <section>
          <h3>Over <span class="second small">the next when one is full or fails</span></h3>
          <VueDraggable v-model="draft.trunkIds" tag="ul" handle=".handle" :disabled="!session.mayEdit">
            <li v-for="(id, index) in draft.trunkIds" :key="id">
              <span class="mono second handle">{{ index + 1 }}</span>
              <span>{{ setUp.nameOf(id) }}</span>
              <button
                v-if="session.mayEdit"
                type="button"
                :aria-label="`Take ${setUp.nameOf(id)} out`"
                @click="draft.trunkIds.splice(index, 1)"
              >
                ×
              </button>
            </li>
          </VueDraggable>
          <p v-if="draft.trunkIds.length === 0" class="second">Any trunk there is.</p>
          <v-autocomplete
            v-if="session.mayEdit && free.length > 0"
            :model-value="null"
            :items="free"
            item-value="id"
            item-title="name"
            placeholder="Add a trunk"
            aria-label="Add a trunk"
            auto-select-first
            @update:model-value="addTrunk"
          />
        </section>
        <section>
          <LedgerField label="For" for="rule-use">
            <v-select id="rule-use" v-model="draft.use" :items="uses" :readonly="!session.mayEdit" />
          </LedgerField>
          <LedgerField v-if="draft.use !== 'campaigns'" label="Of teams" for="rule-teams">
            <v-autocomplete
              id="rule-teams"
              v-model="draft.teamIds"
              multiple
              chips
              closable-chips
              placeholder="all"
              :items="setUp.teams"
              item-value="id"
              item-title="name"
              :readonly="!session.mayEdit"
            />
          </LedgerField>
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed"
            :make="rule === null ? 'Make this rule' : null"
            @leave="rule === null ? emit('close') : begin(draftOf(rule), rule.version)"
          />
        </section>
      </form>
      <section v-if="session.mayOperate">
        <h3>Try it as it is written here</h3>
        <RuleTester :draft="rule === null ? draft : { ...draft, id: rule.id }" />
      </section>
      <section v-if="rule !== null && session.mayEdit">
        <v-btn v-if="!rule.retired" @click="retire">Deactivate</v-btn>
        <v-btn v-else @click="reactivate">Reactivate</v-btn>
      </section>
    </template>
    <HistoryList
      v-else-if="rule !== null"
      :item-id="rule.id"
      :words="ruleWords"
      :show="showRule(setUp.nameOf)"
    />
  </Sheet>
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
  width: 72px;
}
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
li {
  display: grid;
  grid-template-columns: 20px 1fr 24px;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 26px;
}
.handle {
  cursor: grab;
  text-align: right;
}
li button {
  border: 0;
  background: none;
  color: var(--ink2);
  cursor: pointer;
  font-size: 15px;
}
</style>
