import { availableParallelism } from 'node:os';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

const conditions = ['source'];

const of = (
  name: string,
  include: string[],
  isolate: boolean,
  exclude: string[] = [],
  setupFiles: string[] = [],
) => ({
  extends: true as const,
  test: {
    ...{ name, isolate, include, exclude, testTimeout: 60_000, hookTimeout: 120_000 },
    ...{ setupFiles, expect: { poll: { timeout: 20_000 } } },
  },
});
const pages = 'web/src/**/*.page.test.ts';
const web = ['web/src/unseen.testing.ts'];

export default defineConfig({
  plugins: [vue()],
  resolve: { conditions },
  ssr: { resolve: { conditions } },
  test: {
    // What stands alone is loaded once for all its files, pages on a server of answers too; other components replace
    // modules, and browsers want a quiet process.
    projects: [
      of(
        'ground',
        ['core', 'server', 'standins'].map((folder) => `${folder}/src/**/*.test.ts`),
        false,
      ),
      of('pages', [pages], false, [], web),
      of('parts', ['web/src/**/*.test.ts'], true, [pages], web),
      of('jobs', ['e2e/**/*.test.ts'], true),
    ],
    // Of two cores Vitest would use one: most tests wait for the database or a browser.
    maxWorkers: Math.max(2, availableParallelism() - 1),
  },
});
