import type { ItemApi } from '../api/items.ts';

/** What an area of plain items says of itself; pages and sheets are built from it. */
export interface ItemArea<
  Draft extends { name: string },
  View extends Draft & { id: string; version: number; retired: boolean },
> {
  api: ItemApi<Draft, View>;
  /** '/prompts'. */
  page: string;
  /** 'Prompts', and 'prompt' within sentences. */
  title: string;
  one: string;
  /** One line under the name of each. */
  second: string;
  /** What a new one begins with. */
  fresh: () => Draft;
  draftOf: (view: View) => Draft;
  /** The fields' names for people: in the history, and where two versions differ. */
  words: Record<keyof Draft & string, string>;
  show: (field: string, value: unknown) => string;
  /** What its list is called when it is saved as a file. */
  savedAs: string;
  /** When nothing leads to one. */
  unused: string;
}

/** Values that need no words of their own. */
export function showPlain(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'object' ? JSON.stringify(value) : String(value as string | number);
}
