import { formatNumber } from '@night-bell/core/numbers/format';
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref } from 'vue';
import { type DirectoryEntry, useDirectory } from '../shell/directory.ts';

/** What of a kind is called where several kinds are shown side by side. */
export const kindWords: Readonly<Record<string, string>> = {
  queue: 'Queue',
  person: 'Person',
  team: 'Team',
  voicemail: 'Voicemail',
  outside: 'Outside number',
  ringGroup: 'Ring group',
  room: 'Conference room',
  fax: 'Fax box',
  number: 'Number',
  plan: 'Answering plan',
  campaign: 'Campaign',
  trunk: 'Trunk',
  source: 'Call source',
  rule: 'Dialling rule',
  hours: 'Opening hours',
  prompt: 'Prompt',
  region: 'Region table',
  bot: 'Bot',
};

/** Where an item is opened, by its kind. */
export const pageOfItem: Readonly<Record<string, (id: string) => string>> = {
  person: (id) => `/people/${id}`,
  queue: (id) => `/queues/${id}`,
  plan: (id) => `/answering/${id}`,
  number: (id) => `/numbers/${id}`,
  campaign: (id) => `/campaigns/${id}`,
  trunk: (id) => `/trunks/${id}`,
  outside: (id) => `/destinations/${id}`,
  ringGroup: (id) => `/ring-groups/${id}`,
  room: (id) => `/destinations/${id}`,
  fax: (id) => `/destinations/${id}`,
  hours: (id) => `/hours/${id}`,
  prompt: (id) => `/prompts/${id}`,
  rule: (id) => `/dialling/${id}`,
  source: (id) => `/sources/${id}`,
  region: (id) => `/regions/${id}`,
  bot: (id) => `/bots/${id}`,
};
/** What tells an entry from others of its name: an extension, digits, a team. */
export function secondOf({ kind, extension, second }: DirectoryEntry): string {
  if (kind === 'number') return second === null ? '' : formatNumber(second);
  return [extension, second].filter((part) => part !== null && part !== '').join(', ');
}

/** What there is to choose from, found as one types. `chosen` is what stands in the field: it is no search. */
export function useFinding(kinds: () => readonly string[], chosen: () => string) {
  const directory = useDirectory();
  const search = ref('');
  const open = ref(false);
  const typed = computed(() => (search.value === chosen() ? '' : search.value));
  const query = useQuery({
    queryKey: computed(() => ['find', kinds(), typed.value] as const),
    queryFn: ({ queryKey, signal }) => directory.find(queryKey[2], queryKey[1], 30, signal),
    enabled: () => open.value,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: 2_000,
  });
  /** While what was typed is looked for, of what was found before only that stays which holds it: Enter never takes another. */
  const found = computed(() => {
    const entries = query.data.value ?? [];
    if (!query.isPlaceholderData.value) return entries;
    const part = typed.value.trim().toLowerCase();
    return entries.filter((entry) => `${entry.name} ${secondOf(entry)}`.toLowerCase().includes(part));
  });
  return {
    search,
    open,
    typed,
    found,
    looking: computed(() => query.isFetching.value),
    failed: computed(() => query.isError.value),
  };
}
