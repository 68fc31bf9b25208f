import type { ItemKind } from './item-kind.ts';
import type { Answer } from './phrases.ts';
import type { RingTarget } from '../model/ring.ts';
import { referenceOf, type Rule } from './rules.ts';
import type { KeyChoice } from '../model/plan.ts';

export type { ItemKind };

export const dialKeys = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '*', '#'] as const;

/**
 * A field of a step's configuration. From it follow its type, the check of what comes in (fields.schema.ts), which items
 * the step names, and how a form asks for it.
 */
export type Field =
  | { type: 'item'; of: ItemKind; label: string }
  /** Empty for what `otherwise` says. */
  | { type: 'itemOrNone'; of: ItemKind; label: string; otherwise: string }
  | { type: 'whole'; label: string; least: number; most: number; usual: number }
  /** Null for what `otherwise` says: 'as long as they set'. */
  | { type: 'wholeOrNone'; label: string; least: number; most: number; otherwise: string }
  | { type: 'choice'; label: string; of: readonly { value: string; title: string }[] }
  /** People, teams and outside numbers that are rung, each for some seconds. */
  | { type: 'ringTargets'; label: string }
  /** Answers to a question, each known by phrases. */
  | { type: 'answers'; label: string }
  /** Conditions on the call; the first that holds is taken. */
  | { type: 'rules'; label: string }
  /** Empty for what `otherwise` says. */
  | { type: 'text'; label: string; most: number; otherwise: string }
  | { type: 'key'; label: string }
  | { type: 'keys'; label: string };

export type Fields = Readonly<Record<string, Field>>;

interface ValueOf {
  item: string;
  itemOrNone: string;
  whole: number;
  wholeOrNone: number | null;
  choice: string;
  ringTargets: readonly RingTarget[];
  answers: readonly Answer[];
  rules: readonly Rule[];
  text: string;
  /** Null for none. */
  key: string | null;
  keys: readonly KeyChoice[];
}

/** The configuration that these fields describe. */
export type ConfigOf<F extends Fields> = { readonly [K in keyof F]: ValueOf[F[K]['type']] };

export type Config = Readonly<Record<string, unknown>>;

/** The items that a configuration names. */
export function referencesOf(fields: Fields, config: Config): { kind: ItemKind; id: string }[] {
  return Object.entries(fields).flatMap(([name, field]) => {
    switch (field.type) {
      case 'item':
        return [{ kind: field.of, id: String(config[name]) }];
      case 'itemOrNone':
        return config[name] === '' ? [] : [{ kind: field.of, id: String(config[name]) }];
      case 'ringTargets':
        return (config[name] as readonly RingTarget[]).map(({ kind, id }) => ({ kind, id }));
      case 'rules':
        return (config[name] as readonly Rule[]).flatMap(({ all }) =>
          all.flatMap((condition) => referenceOf(condition) ?? []),
        );
      default:
        return [];
    }
  });
}
