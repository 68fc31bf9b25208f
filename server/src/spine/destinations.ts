import type { Knex } from 'knex';
import type { Destination } from '@night-bell/core/model/destination';
import { Problem } from '../http/problems.ts';
import type { Reference } from './items.ts';

/** A destination from its two columns. */
export function destinationFrom(kind: string | null, item: string | null): Destination | null {
  if (kind === null) return null;
  if (kind === 'end') return { kind: 'end' };
  return { kind, id: item } as Destination;
}

/** The two columns of a destination. */
export function destinationColumns(destination: Destination): { kind: string; item: string | null };
export function destinationColumns(destination: Destination | null): {
  kind: string | null;
  item: string | null;
};
export function destinationColumns(destination: Destination | null): {
  kind: string | null;
  item: string | null;
} {
  if (destination === null) return { kind: null, item: null };
  return { kind: destination.kind, item: destination.kind === 'end' ? null : destination.id };
}

export function destinationReference(destination: Destination | null, how: string): Reference[] {
  return destination === null || destination.kind === 'end' ? [] : [{ to: destination.id, how }];
}

/** A destination must exist, be of its kind, and be in use. `path` is the field it stands in. */
export async function checkDestination(
  trx: Knex,
  destination: Destination | null,
  path: string,
): Promise<void> {
  if (destination === null || destination.kind === 'end') return;
  const row = await trx('item')
    .where({ id: destination.id, kind: destination.kind })
    .first<{ name: string; retired_at: Date | null } | undefined>('name', 'retired_at');
  if (row === undefined) throw Problem.field(path, 'That destination does not exist. Choose another.');
  if (row.retired_at !== null)
    throw Problem.field(path, `${row.name} is deactivated. Choose another destination.`);
}
