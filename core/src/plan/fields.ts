import type { Destination } from '../model/destination.ts';
import type { KeyChoice } from '../model/plan.ts';

/** Kinds of items a step can name. */
export type ItemKind = Exclude<Destination['kind'], 'end'> | 'hours' | 'prompt';

export const dialKeys = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '*', '#'] as const;

/**
 * A field of a step's configuration. From it follow its type, the check of what comes in (fields.schema.ts), which items
 * the step names, and how a form asks for it.
 */
export type Field =
  | { type: 'item'; of: ItemKind; label: string }
  | { type: 'whole'; label: string; least: number; most: number; usual: number }
  /** Seconds, or null for as long as `otherwise` says. */
  | { type: 'seconds'; label: string; least: number; most: number; otherwise: string }
  | { type: 'key'; label: string }
  | { type: 'keys'; label: string };

export type Fields = Readonly<Record<string, Field>>;

interface ValueOf {
  item: string;
  whole: number;
  seconds: number | null;
  /** Null for none. */
  key: string | null;
  keys: readonly KeyChoice[];
}

/** The configuration that these fields describe. */
export type ConfigOf<F extends Fields> = { readonly [K in keyof F]: ValueOf[F[K]['type']] };

export type Config = Readonly<Record<string, unknown>>;

/** The items that a configuration names. */
export function referencesOf(fields: Fields, config: Config): { kind: ItemKind; id: string }[] {
  return Object.entries(fields).flatMap(([name, field]) =>
    field.type === 'item' ? [{ kind: field.of, id: String(config[name]) }] : [],
  );
}
