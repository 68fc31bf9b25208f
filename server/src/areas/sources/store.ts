import { type SourceDraft, sources, type SourceView } from '@night-bell/core/contracts/sources';
import { amountOf, centsOf } from '@night-bell/core/model/money';
import { defineItem } from '../../spine/define-item.ts';

type SourceRow = Omit<SourceView, 'cost'> & { cost: number };

export const sourceItem = defineItem<typeof sources.path, SourceDraft, SourceView, SourceRow>({
  kind: 'source',
  contract: sources,
  word: 'call source',
  table: 'call_source',
  columns: {
    ...{ kind: 'kind', costPer: 'cost_per', cost: { column: 'cost_cents', write: centsOf } },
    fromDay: { column: 'from_day', read: `to_char(t.from_day, 'YYYY-MM-DD')` },
  },
  more: {
    numbers: `coalesce((select json_agg(json_build_object('id', n.id, 'e164', n.e164, 'label', l.name) order by n.e164)
      from number n join item l on l.id = n.id where n.source_id = t.id and l.retired_at is null), '[]')`,
  },
  view: ({ cost, ...row }) => ({ ...row, cost: amountOf(cost) }),
  references: () => [],
});
