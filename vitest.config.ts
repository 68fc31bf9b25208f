import { availableParallelism } from 'node:os';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

const conditions = ['source'];

export default defineConfig({
  plugins: [vue()],
  resolve: { conditions },
  ssr: { resolve: { conditions } },
  test: {
    include: [
      'core/src/**/*.test.ts',
      'server/src/**/*.test.ts',
      'standins/src/**/*.test.ts',
      'web/src/**/*.test.ts',
      'e2e/**/*.test.ts',
    ],
    // Of two cores Vitest would use one: most tests wait for the database or a browser.
    maxWorkers: Math.max(2, availableParallelism() - 1),
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
});
