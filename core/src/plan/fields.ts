import type { Destination } from '../model/destination.ts';

/** Kinds of items a step can name. */
export type ItemKind = Exclude<Destination['kind'], 'end'>;

/**
 * A field of a step's configuration. From it follow its type, the check of what comes in (fields.schema.ts), which items
 * the step names, and how a form asks for it.
 */
export type Field = { type: 'item'; of: ItemKind; label: string };

export type Fields = Readonly<Record<string, Field>>;

/** The configuration that these fields describe. */
export type ConfigOf<F extends Fields> = { readonly [K in keyof F]: string };

/** The items that a configuration names. */
export function referencesOf(
  fields: Fields,
  config: Readonly<Record<string, unknown>>,
): { kind: ItemKind; id: string }[] {
  return Object.entries(fields).map(([name, field]) => ({ kind: field.of, id: String(config[name]) }));
}
