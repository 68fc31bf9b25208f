import { afterEach, vi } from 'vitest';

/** Pages share what they loaded: what one loads only when it is wanted is waited for, or it is lost to all after it. */
afterEach(() => vi.dynamicImportSettled());
