import type { CheckView } from './check.ts';

/** A set-up in which everything is there and nothing is known, but for what a test says of it. */
export function checkView(change: Partial<CheckView> = {}): CheckView {
  return {
    has: () => true,
    words: () => null,
    languages: () => [],
    hours: () => undefined,
    leadsTo: () => [],
    numbers: () => [],
    hidingExtensions: () => null,
    recordFields: () => null,
    ...change,
  };
}
