<script setup lang="ts">
import { figure } from '../../kit/locale.ts';
import { computed, ref } from 'vue';
import { api, ask, sentenceOf } from '../../api/client.ts';
import { roleWords } from '../../kit/words.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useFreshCodes } from './fresh-codes.ts';

/** One sentence over the marked rows: choose what they get, and all of them get it or nobody. */
const props = defineProps<{
  ids: string[];
  /** How many fit what the list is narrowed to. */
  fit: number;
}>();
const emit = defineEmits<{ clear: []; all: [] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const codes = useFreshCodes();
const busy = ref(false);

type What =
  'team' | 'role' | 'skill' | 'join' | 'leave' | 'codes' | 'codesByMail' | 'available' | 'away' | 'signedOut';
const what = ref<What>(session.mayEdit ? 'team' : 'away');
const value = ref<string | null>(null);
const level = ref(3);

const kinds = computed(() => [
  ...(session.mayEdit
    ? [
        { value: 'team', title: 'move to team' },
        { value: 'role', title: 'give the role' },
        { value: 'skill', title: 'give the skill' },
        { value: 'join', title: 'put into queue' },
        { value: 'leave', title: 'take out of queue' },
        { value: 'codes', title: 'give new sign-in codes' },
        { value: 'codesByMail', title: 'mail new sign-in codes' },
      ]
    : []),
  { value: 'available', title: 'sign in' },
  { value: 'away', title: 'set away for' },
  { value: 'signedOut', title: 'sign out' },
]);

const choices = computed<{ value: string; title: string }[]>(() => {
  const named = (items: { id: string; name: string; retired?: boolean }[]) =>
    items.filter((item) => item.retired !== true).map((item) => ({ value: item.id, title: item.name }));
  switch (what.value) {
    case 'team':
      return [{ value: 'none', title: 'no team' }, ...named(setUp.teams)];
    case 'role':
      return Object.entries(roleWords).map(([each, title]) => ({ value: each, title }));
    case 'skill':
      return named(setUp.skills);
    case 'join':
    case 'leave':
      return named(setUp.queues ?? []);
    case 'away':
      return (setUp.agentSettings?.awayReasons ?? []).map((reason) => ({ value: reason, title: reason }));
    default:
      return [];
  }
});
const needsValue = computed(() => !['available', 'signedOut', 'codes', 'codesByMail'].includes(what.value));

function change(chosen: string) {
  switch (what.value) {
    case 'team':
      return { teamId: (chosen === 'none' ? null : chosen) as string };
    case 'role':
      return { role: chosen as keyof typeof roleWords };
    case 'skill':
      return { skill: { skillId: chosen, level: level.value as number } };
    case 'join':
      return { joinQueueId: chosen };
    default:
      return { leaveQueueId: chosen };
  }
}

/** As many as the server changes in one go; more go one part after the other. */
const mostAtOnce = 2_000;
const partsOf = (ids: readonly string[]) =>
  Array.from({ length: Math.ceil(ids.length / mostAtOnce) }, (_, part) =>
    ids.slice(part * mostAtOnce, (part + 1) * mostAtOnce),
  );
/** How many are done while there is more than one part. */
const done = ref(0);

/** Each part in turn; what comes of the parts that were done is told also when a later one is refused. */
async function inParts<Answer>(
  work: (ids: string[]) => Promise<Answer>,
): Promise<{ answers: Answer[]; fault: unknown }> {
  const answers: Answer[] = [];
  done.value = 0;
  for (const ids of partsOf(props.ids)) {
    try {
      answers.push(await work(ids));
    } catch (fault) {
      if (answers.length === 0) throw fault;
      return { answers, fault };
    }
    done.value += ids.length;
  }
  return { answers, fault: null };
}
const people = (count: number) => (count === 1 ? '1 person' : `${figure(count)} people`);

async function giveCodes(send: boolean): Promise<void> {
  const { answers, fault } = await inParts((ids) =>
    ask(api.POST('/api/people/codes', { body: { ids, send } })),
  );
  const given = answers.flat();
  codes.keep(given);
  const without = given.filter(({ sentTo }) => sentTo === null).length;
  if (fault !== null) return notices.fail(fault);
  notices.say(
    send && without > 0
      ? `New codes for ${people(given.length)}; ${figure(without)} have no mail address. All are kept here until you hide them.`
      : `New codes for ${people(given.length)}. Old passwords and sign-ins have ended.`,
  );
  emit('clear');
}

async function direct(to: 'available' | 'away' | 'signedOut'): Promise<void> {
  const state = { state: to, ...(to === 'away' ? { reason: value.value ?? 'break' } : {}) };
  const { answers, fault } = await inParts((ids) =>
    ask(api.POST('/api/people/bulk-state', { body: { ids, state } })),
  );
  const refused = answers.flatMap((answer) => answer.refused);
  const [first] = refused;
  if (fault !== null) notices.fail(fault);
  else if (first === undefined) notices.say(`Done for ${people(props.ids.length)}.`);
  else
    notices.warn(
      `Done for ${figure(props.ids.length - refused.length)}; not for ${figure(refused.length)}. ${first.name}: ${first.why}${refused.length > 1 ? ' The others alike or look at each.' : ''}`,
    );
}

async function changeAll(chosen: string): Promise<void> {
  const { answers, fault } = await inParts((ids) =>
    ask(api.POST('/api/people/bulk', { body: { ids, change: change(chosen) } })),
  );
  const takeBack = async () => {
    for (const { batch } of [...answers].reverse())
      await ask(api.POST('/api/batches/{id}/take-back', { params: { path: { id: batch } } }));
    await setUp.load();
    notices.say('Taken back.');
  };
  if (fault === null) {
    notices.say(`${people(props.ids.length)} changed.`, takeBack);
    emit('clear');
  } else notices.say(`${people(done.value)} changed, the others not: ${sentenceOf(fault)}`, takeBack);
}

async function go(): Promise<void> {
  busy.value = true;
  try {
    if (what.value === 'codes' || what.value === 'codesByMail') await giveCodes(what.value === 'codesByMail');
    else if (what.value === 'available' || what.value === 'away' || what.value === 'signedOut')
      await direct(what.value);
    else await changeAll(value.value!);
    await setUp.load();
  } catch (error) {
    notices.fail(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="bulk" aria-label="Change the marked people" @submit.prevent="go">
    <b class="mono">{{ ids.length }}</b> marked:
    <v-select v-model="what" aria-label="What to do" :items="kinds" @update:model-value="value = null" />
    <v-autocomplete
      v-if="needsValue"
      v-model="value"
      aria-label="Which"
      placeholder="choose"
      :items="choices"
      auto-select-first
    />
    <template v-if="what === 'skill'">
      at level
      <v-select v-model="level" class="level" aria-label="Level" :items="[1, 2, 3, 4, 5]" />
    </template>
    <v-btn
      type="submit"
      variant="flat"
      color="primary"
      class="small-button"
      :loading="busy"
      :disabled="needsValue && value === null"
      >Do it</v-btn
    >
    <span v-if="busy && ids.length > mostAtOnce" class="mono second" role="status"
      >{{ figure(done) }} of {{ figure(ids.length) }}</span
    >
    <button v-if="fit > ids.length" class="link" type="button" @click="emit('all')">
      Mark all {{ figure(fit) }}
    </button>
    <button class="link" type="button" @click="emit('clear')">Unmark</button>
  </form>
</template>

<style scoped>
.bulk {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 5px 20px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
.bulk :deep(.v-input) {
  flex: 0 1 168px;
}
.bulk :deep(.level) {
  flex: 0 1 56px;
}
</style>
