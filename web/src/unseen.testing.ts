import { afterEach, vi } from 'vitest';

// As in a window nobody looks at, all of a page comes at once.
if (typeof document !== 'undefined')
  Object.defineProperty(document, 'hidden', { value: true, configurable: true });

/** Pages share what they loaded: what one loads only when it is wanted is waited for, or it is lost to all after it. */
afterEach(() => vi.dynamicImportSettled());
