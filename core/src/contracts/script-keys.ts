import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, flag, instant, list, name, nullable, text } from './parts.ts';

/** Keys by which scripts use the API without signing in: what each may do. The secret itself is shown once. */
export const scriptKeys = itemContract(
  { area: 'Keys of scripts', path: '/api/script-keys', one: 'a key', many: 'keys' },
  {
    name,
    /** It may do what this role may. */
    role: choice('administrator', 'supervisor', 'auditor'),
    /** Headings of the API document it is kept to; none named means all of them. */
    areas: list(text(40), 60),
  },
  {
    hasSecret: flag,
    /** What the secret begins with, to know it by. */
    begins: nullable(text(20)),
    /** Under whose name its changes stand. */
    madeBy: nullable(text(80)),
    lastUsedAt: nullable(instant),
  },
);

export type ScriptKeysContract = typeof scriptKeys;
export type ScriptKeyDraft = DraftOf<ScriptKeysContract>;
export type ScriptKeyView = ViewOf<ScriptKeysContract>;
