import type { Destination } from '../model/destination.ts';
import type { RingTarget } from './ring.ts';
import type { KeyChoice } from '../model/plan.ts';

/** Kinds of items a step can name. */
export type ItemKind = Exclude<Destination['kind'], 'end'> | 'hours' | 'prompt' | 'team' | 'code';

export const dialKeys = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '*', '#'] as const;

/**
 * A field of a step's configuration. From it follow its type, the check of what comes in (fields.schema.ts), which items
 * the step names, and how a form asks for it.
 */
export type Field =
  | { type: 'item'; of: ItemKind; label: string }
  | { type: 'whole'; label: string; least: number; most: number; usual: number }
  /** Null for what `otherwise` says: 'as long as they set'. */
  | { type: 'wholeOrNone'; label: string; least: number; most: number; otherwise: string }
  | { type: 'choice'; label: string; of: readonly { value: string; title: string }[] }
  /** People, teams and outside numbers that are rung, each for some seconds. */
  | { type: 'ringTargets'; label: string }
  | { type: 'key'; label: string }
  | { type: 'keys'; label: string };

export type Fields = Readonly<Record<string, Field>>;

interface ValueOf {
  item: string;
  whole: number;
  wholeOrNone: number | null;
  choice: string;
  ringTargets: readonly RingTarget[];
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
    field.type === 'item'
      ? [{ kind: field.of, id: String(config[name]) }]
      : field.type === 'ringTargets'
        ? (config[name] as readonly RingTarget[]).map(({ kind, id }) => ({ kind, id }))
        : [],
  );
}
