import { afterEach, vi } from 'vitest';

// No frame is drawn here, as in a window nobody looks at: nothing waits for one.
if (typeof document !== 'undefined')
  Object.defineProperty(document, 'hidden', { value: true, configurable: true });

/** Pages share what they loaded: what one loads only when it is wanted is waited for, or it is lost to all after it. */
afterEach(() => vi.dynamicImportSettled());
