import { useInfiniteQuery, useQueryClient } from '@tanstack/vue-query';
import type { MessageState, MessageView } from '@night-bell/core/contracts/voicemail-boxes';
import { computed, type Ref, watch } from 'vue';
import { send } from '../../api/items.ts';
import { useLive } from '../../shell/live.ts';

const page = 100;
const pathOf = (boxId: string) => `/api/voicemail-boxes/${boxId}/messages`;

/** The messages of a box, latest first; more are read when they are asked for. */
export function useMessages(boxId: Ref<string>) {
  const live = useLive();
  const cache = useQueryClient();
  const query = useInfiniteQuery({
    queryKey: ['messages', boxId],
    queryFn: ({ pageParam }) =>
      send<MessageView[]>('GET', `${pathOf(boxId.value)}${pageParam === 0 ? '' : `?before=${pageParam}`}`),
    initialPageParam: 0,
    getNextPageParam: (last: MessageView[]) => (last.length < page ? undefined : last.at(-1)!.at),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const readAgain = () => cache.invalidateQueries({ queryKey: ['messages', boxId.value] });
  watch([() => live.changedItems, () => live.missed], ([changed, missed], [, missedBefore]) => {
    if (missed !== missedBefore || changed.some(({ kind, id }) => kind === 'voicemail' && id === boxId.value))
      void readAgain();
  });
  return {
    messages: computed(() => query.data.value?.pages.flat() ?? null),
    error: computed(() => query.error.value),
    hasMore: computed(() => query.hasNextPage.value),
    more: () => query.fetchNextPage(),
    readAgain,
  };
}

export const markMessages = (ids: string[], state: MessageState) =>
  send('POST', '/api/messages/mark', { body: { ids, state } });
export const deleteMessages = (ids: string[], deleted: boolean) =>
  send('POST', '/api/messages/delete', { body: { ids, deleted } });
export const forwardMessages = (ids: string[], boxId: string) =>
  send<{ came: number }>('POST', '/api/messages/forward', { body: { ids, boxId } });
export const callBack = (id: string) => send('POST', `/api/messages/${id}/call-back`, { body: {} });
