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
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
});
