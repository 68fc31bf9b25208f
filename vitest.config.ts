import { availableParallelism } from 'node:os';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

const conditions = ['source'];

const of = (name: string, folders: string[], isolate: boolean) => ({
  extends: true as const,
  test: {
    ...{ name, isolate, testTimeout: 60_000, hookTimeout: 120_000 },
    include: folders.map((folder) => `${folder}/${folder === 'e2e' ? '' : 'src/'}**/*.test.ts`),
  },
});

export default defineConfig({
  plugins: [vue()],
  resolve: { conditions },
  ssr: { resolve: { conditions } },
  test: {
    // What stands alone is loaded once for all its files; components replace modules, and browsers want a quiet process.
    projects: [
      of('ground', ['core', 'server', 'standins'], false),
      of('pages', ['web'], true),
      of('jobs', ['e2e'], true),
    ],
    // Of two cores Vitest would use one: most tests wait for the database or a browser.
    maxWorkers: Math.max(2, availableParallelism() - 1),
  },
});
