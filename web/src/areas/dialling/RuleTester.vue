<script setup lang="ts">
import type { RuleDraft } from '@night-bell/core/contracts/dialling-rules';
import { money } from '../../kit/money.ts';
import { computed, ref, watch } from 'vue';
import { api, ask, type RuleTrial } from '../../api/client.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { verdictWords } from './words.ts';

/** Type anything: which rule wins, why others do not, what is sent, over which trunk, at what price. */
const props = defineProps<{ draft?: (RuleDraft & { id?: string }) | null }>();
const emit = defineEmits<{ rule: [id: string] }>();
const setUp = useSetUp();
const dialled = ref('206 555 0170');
const by = ref<string>('person');
const trial = ref<RuleTrial | null>(null);

const askers = computed(() => [
  { value: 'person', title: 'somebody without a team' },
  ...setUp.teams.map((team) => ({ value: team.id, title: `somebody of ${team.name}` })),
  { value: 'campaign', title: 'a campaign' },
]);

let asked = 0;
async function run(): Promise<void> {
  const turn = ++asked;
  // Not before the rules are there: it would be asked again with them.
  if (setUp.rules === null) return;
  if (dialled.value.trim() === '') return void (trial.value = null);
  const isTeam = by.value !== 'person' && by.value !== 'campaign';
  const body = {
    dialled: dialled.value,
    by: by.value === 'campaign' ? ('campaign' as const) : ('person' as const),
    ...(isTeam ? { teamId: by.value } : {}),
    ...(props.draft?.pattern ? { draft: { ...props.draft, name: props.draft.name || 'This rule' } } : {}),
  };
  const answer = await ask(api.POST('/api/dialling-rules/try', { body: body as never })).catch(() => null);
  if (turn === asked) trial.value = answer;
}
watch([dialled, by, () => JSON.stringify(props.draft ?? null), () => setUp.rules], run, { immediate: true });

const outcome = computed(() => {
  const now = trial.value;
  if (now === null) return '';
  switch (now.kind) {
    case 'emergency':
      return 'A call for help. It goes out as dialled, over any line, with the address of the phone.';
    case 'noRules':
      return 'There are no rules: it goes out as it stands.';
    case 'noMatch':
      return 'No rule fits. The call does not go out.';
    case 'notDialable':
      return 'This is nothing one can dial.';
    default:
      return '';
  }
});
const shown = computed(() => (trial.value?.others ?? []).filter(({ why }) => why !== 'noMatch').slice(0, 8));
const unfit = computed(() => (trial.value?.others ?? []).length - shown.value.length);
</script>

<template>
  <div class="tester">
    <p class="sentence">
      When
      <v-select v-model="by" aria-label="Who dials" :items="askers" />
      dials
      <input v-model="dialled" class="mono" aria-label="What is dialled" autocomplete="off" />
      <template v-if="trial?.digits">
        <span class="arrow" aria-hidden="true">→</span> <b class="mono sent">{{ trial.digits }}</b>
        <span v-if="trial.trunks.length > 0" class="second">
          over {{ trial.trunks.map((trunk) => trunk.name).join(', else ') }}
          <template v-if="trial.trunks[0]!.perMinute"
            >at <span class="mono">{{ money(trial.trunks[0]!.perMinute) }}</span> a minute</template
          ><template v-else>, price not known</template>
        </span>
        <span v-else class="fault-text">and there is no trunk to send it over</span>
      </template>
    </p>
    <p
      v-if="outcome"
      :class="trial?.kind === 'emergency' || trial?.kind === 'noRules' ? 'second' : 'fault-text'"
    >
      {{ outcome }}
    </p>
    <ul v-if="shown.length > 0">
      <li v-for="each in shown" :key="each.ruleId" :class="{ wins: each.why === 'wins' }">
        <button v-if="each.ruleId !== 'draft'" type="button" class="link" @click="emit('rule', each.ruleId)">
          {{ each.name }}
        </button>
        <b v-else>{{ each.name }}</b>
        <span class="mono second">{{ each.pattern }}</span>
        <span class="second">{{ verdictWords[each.why] }}</span>
      </li>
    </ul>
    <p v-if="unfit > 0" class="small second">
      {{ unfit }} {{ unfit === 1 ? 'other does' : 'others do' }} not fit.
    </p>
  </div>
</template>

<style scoped>
li > .link {
  min-height: 24px;
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
}
.sentence :deep(.v-select) {
  flex: 0 0 208px;
}
.sentence input {
  width: 168px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 26px;
  padding: 0 2px;
}
.sent {
  font-size: 13px;
}
li {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) minmax(120px, 1fr) 1.4fr;
  gap: 10px;
  padding: 2px 0;
}
li .link {
  text-align: left;
  color: inherit;
  font-weight: 400;
}
li.wins .link {
  font-weight: 600;
}
</style>
