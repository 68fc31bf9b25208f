import { formatNumber } from '@night-bell/core/numbers/format';
import { mainOf } from '@night-bell/core/story/facts';
import { resultOf } from '@night-bell/core/story/words';
import { savedAtOnce, savedList } from '../../lists/saved-list.ts';
import { companyClock } from '../../spine/company-clock.ts';
import { type CallFilter, callNarrowing, type CallRow, callTotals, findCalls } from './calls.queries.ts';

const seconds = (ms: number) => Math.round(ms / 1_000);

export const savedCalls = savedList<CallFilter, CallRow>({
  area: 'Calls',
  name: 'calls',
  query: callNarrowing,
  columns: async (database) => {
    const { zone, at } = await companyClock(database);
    return [
      { title: `Arrived (${zone})`, of: ({ arrivedAt }) => at(arrivedAt) },
      { title: 'Direction', of: ({ direction }) => direction },
      {
        title: 'Caller or contact',
        of: ({ direction, caller, dialled }) => formatNumber(direction === 'inbound' ? caller : dialled),
      },
      { title: 'Name', of: ({ callerName }) => callerName },
      {
        title: 'Number',
        of: ({ direction, dialled, caller }) => formatNumber(direction === 'inbound' ? dialled : caller),
      },
      { title: 'Source', of: ({ sourceName }) => sourceName },
      {
        title: 'Queue, group, campaign',
        of: ({ campaignName, queueName, ringGroupName }) => mainOf(campaignName, queueName, ringGroupName),
      },
      { title: 'Who handled it', of: ({ personName }) => personName },
      { title: 'How it ended', of: ({ result, direction }) => resultOf(result, direction) },
      { title: 'Outcome', of: ({ outcome }) => outcome },
      { title: 'Note', of: ({ note }) => note },
      { title: 'Waited (s)', of: ({ waitedMs }) => seconds(waitedMs) },
      { title: 'Talked (s)', of: ({ talkedMs }) => seconds(talkedMs) },
    ];
  },
  rows: async function* (database, query) {
    for (let behind: string | undefined; ;) {
      const some = await findCalls(database, {
        ...query,
        limit: savedAtOnce,
        ...(behind === undefined ? {} : { behind }),
      });
      yield some;
      behind = some.at(-1)?.id;
      if (some.length < savedAtOnce) return;
    }
  },
  count: async (database, query) =>
    (await callTotals(database, query)).reduce((sum, { count }) => sum + count, 0),
});
