import { defineStore } from 'pinia';
import { shallowReactive, watch } from 'vue';
import { readPage } from '../api/pages.ts';
import { useLive } from './live.ts';
import { useSession } from './session.ts';

/** What a thing is called, and what tells it from others of that name. */
export interface DirectoryEntry {
  id: string;
  kind: string;
  name: string;
  extension: string | null;
  /** A number's digits, a person's team. */
  second: string | null;
  retired: boolean;
}

const path = '/api/directory';
const atOnce = 150;
/** One key that cannot be any would have all that are asked for with it refused: service codes, withheld numbers. */
const askable = {
  ids: /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i,
  digits: /^\+?\d{2,15}$/,
};

/**
 * What things are called, read as names are needed and kept; a change by anybody has only the names that are known here
 * read again. What is asked for by id or digits and not known yet comes a moment later by itself.
 */
export const useDirectory = defineStore('directory', () => {
  const live = useLive();
  const session = useSession();
  /** By id, and by the digits one dials; null for what there is not. */
  const known = shallowReactive(new Map<string, DirectoryEntry | null>());
  const wanted = { ids: new Set<string>(), digits: new Set<string>() };
  /** Asked for, and not answered yet. */
  const asking = new Set<string>();
  let waits = false;

  function keep(entry: DirectoryEntry): void {
    known.set(entry.id, entry);
    if (entry.extension !== null) known.set(entry.extension, entry);
    if (entry.kind === 'number' && entry.second !== null) known.set(entry.second, entry);
  }

  async function readWanted(): Promise<void> {
    waits = false;
    for (const by of ['ids', 'digits'] as const) {
      const all = [...wanted[by]];
      wanted[by].clear();
      for (let from = 0; from < all.length; from += atOnce) {
        const some = all.slice(from, from + atOnce);
        for (const key of some) asking.add(key);
        const page = await readPage<DirectoryEntry>(path, { [by]: some }).catch(() => null);
        for (const key of some) asking.delete(key);
        if (page === null) continue;
        for (const key of some) if (!known.has(key)) known.set(key, null);
        page.rows.forEach(keep);
      }
    }
  }

  function want(by: 'ids' | 'digits', key: string): void {
    if (!session.mayRead || wanted[by].has(key) || asking.has(key)) return;
    wanted[by].add(key);
    if (waits) return;
    waits = true;
    // Everything one drawing of the page needs is asked for at once.
    queueMicrotask(() => void readWanted());
  }

  function look(by: 'ids' | 'digits', key: string): DirectoryEntry | null {
    const entry = askable[by].test(key) ? known.get(key) : null;
    if (entry === undefined) want(by, key);
    return entry ?? null;
  }

  const entry = (id: string) => look('ids', id);
  const ofDigits = (digits: string) => look('digits', digits);

  /** Empty for a moment, until it is read. */
  function nameOf(id: string): string {
    const entry = look('ids', id);
    return entry?.name ?? (known.get(id) === null ? 'deactivated' : '');
  }

  /** Whether it is there, of this kind and in use; what is not read yet is taken to be. */
  function has(kind: string, id: string): boolean {
    const entry = look('ids', id);
    if (entry === null) return known.get(id) !== null;
    return entry.kind === kind && !entry.retired;
  }

  /** Those in use that fit what is typed, kind by kind. Throws ApiProblem. */
  async function find(
    search: string,
    kinds: readonly string[],
    limit = 20,
    signal?: AbortSignal,
  ): Promise<DirectoryEntry[]> {
    const { rows } = await readPage<DirectoryEntry>(path, { search, kinds, limit: String(limit) }, signal);
    rows.forEach(keep);
    return rows;
  }

  watch(
    () => live.changedItems,
    (changed) => {
      for (const { id } of changed) if (known.has(id)) want('ids', id);
    },
  );
  watch(
    () => live.missed,
    () => known.clear(),
  );

  return { entry, ofDigits, nameOf, has, find };
});
