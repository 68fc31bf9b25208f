import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ownFields } from '@night-bell/core/plan/record-fields';
import { send } from '../../api/items.ts';

/** The fields that records of the customer systems have; null while they are read. */
export function useRecordFields() {
  const query = useQuery({
    queryKey: ['record-fields'],
    queryFn: async () => ownFields(await send<string[]>('GET', '/api/record-fields')),
    staleTime: 60_000,
  });
  return computed(() => query.data.value ?? null);
}
