import type { ViewedList } from '@night-bell/core/contracts/list-views';
import type { ItemApi } from '../api/items.ts';

/** What an area of plain items says of itself; pages and sheets are built from it. */
export interface ItemArea<
  Draft extends { name: string },
  View extends Draft & { id: string; version: number; retired: boolean },
> {
  api: ItemApi<Draft, View>;
  /** '/prompts'. */
  page: `/${ViewedList}`;
  /** 'Prompts', and 'prompt' within sentences. */
  title: string;
  one: string;
  /** One line under the name of each. */
  second: string | ((item: View | null) => string);
  /** What a new one begins with. */
  fresh: () => Draft;
  draftOf: (view: View) => Draft;
  /** The fields' names for people: in the history, and where two versions differ. */
  words: Partial<Record<keyof Draft & string, string>>;
  show: (field: string, value: unknown) => string;
  /** What its list is called when it is saved as a file. */
  savedAs: string;
  /** When nothing leads to one; left out where nothing can. */
  unused?: string;
  /** What its first tab is called, where that is more than its settings. */
  first?: string;
  /** Tabs of its own, between the settings and what uses it. */
  tabs?: readonly { key: string; title: string }[];
  /** What it is found by beside its name. */
  finds?: (view: View) => string;
  /** What is said once one is made. */
  made?: (view: View) => string;
}

/** Values that need no words of their own. */
export function showPlain(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'object' ? JSON.stringify(value) : String(value as string | number);
}
