import type { Knex } from 'knex';
import type { BlockedItem } from '@night-bell/core/blocking/blocked';
import { shortestPrefix } from '@night-bell/core/blocking/blocked';
import { blocked, type BlockedDraft, type BlockedView } from '@night-bell/core/contracts/blocked';
import { readNumber } from '@night-bell/core/numbers/e164';
import { isEmergency } from '@night-bell/core/dialling/emergency';
import { Problem } from '../../http/problems.ts';
import { defineItem } from '../../spine/define-item.ts';

interface Row extends Omit<BlockedView, 'until' | 'lastHit' | 'hits'> {
  until: Date | null;
  lastHit: Date | null;
  hits: string;
}

export const blockedItem = defineItem<typeof blocked.path, BlockedDraft, BlockedView, Row>({
  kind: 'blocked',
  contract: blocked,
  word: 'blocked caller',
  table: 'blocked',
  columns: {
    kind: { column: 'kind' },
    digits: { column: 'digits' },
    until: { column: 'until', instant: true },
    why: { column: 'why' },
  },
  more: { hits: 't.hits', lastHit: 't.last_hit' },
  view: ({ until, lastHit, hits, ...row }) => ({
    ...row,
    ...{ until: until?.getTime() ?? null, lastHit: lastHit?.getTime() ?? null, hits: Number(hits) },
  }),
  references: () => [],
  check: async (trx, { kind, digits }, current) => {
    if (kind === 'withheld') {
      if (digits !== '') throw Problem.field('/digits', 'Callers who withhold their number have no digits.');
    } else await checkDigits(trx, kind, digits);
    const same = await trx('blocked as b')
      .join('item as i', 'i.id', 'b.id')
      .where({ 'b.kind': kind, 'b.digits': digits })
      .whereNull('i.retired_at')
      .modify((query) => {
        if (current !== null) void query.whereNot('b.id', current.id);
      })
      .first<{ name: string } | undefined>('i.name');
    if (same !== undefined) throw Problem.field('/digits', `${same.name} is on the list already.`, 'taken');
  },
});

/** Never a number of ours, nor one that is called for help. */
async function checkDigits(trx: Knex, kind: 'number' | 'prefix', digits: string): Promise<void> {
  if (kind === 'number') {
    const reading = readNumber(digits);
    if (!reading.ok) throw Problem.field('/digits', reading.reason);
  } else if (digits.replace(/\D/g, '').length < shortestPrefix)
    throw Problem.field('/digits', `A beginning has at least ${shortestPrefix} digits after the plus.`);
  if (isEmergency(digits.replace('+', '')))
    throw Problem.field('/digits', 'Whoever is called for help may call back. This is never blocked.');
  const ours = await trx('number as n')
    .join('item as i', 'i.id', 'n.id')
    .whereNull('i.retired_at')
    .where('n.e164', kind === 'number' ? '=' : 'like', kind === 'number' ? digits : `${digits}%`)
    .first<{ e164: string } | undefined>('n.e164');
  if (ours !== undefined && kind === 'number')
    throw Problem.field('/digits', `${ours.e164} is a number of ours. It is never blocked.`);
}

/** As the exchange reads them. */
export async function compiledBlocked(database: Knex): Promise<BlockedItem[]> {
  const items = await blockedItem.list(database);
  return items
    .filter(({ retired }) => !retired)
    .map(({ id, name, kind, digits, until }) => ({ id, name, kind, digits, until }));
}

/** Callers of this entry were turned away once more. */
export async function countHit(trx: Knex, id: string): Promise<void> {
  await trx('blocked')
    .where({ id })
    .update({ hits: trx.raw('hits + 1'), last_hit: trx.fn.now() });
}
