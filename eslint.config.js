import vue from 'eslint-plugin-vue';
import globals from 'globals';
import typescript from 'typescript-eslint';
import vueParser from 'vue-eslint-parser';

/** What the outside world would bring into core: it must arrive with events instead. */
const impureGlobals = [
  'Date',
  'process',
  'setTimeout',
  'setInterval',
  'setImmediate',
  'queueMicrotask',
  'fetch',
  'performance',
  'crypto',
  'console',
];

export default typescript.config(
  { ignores: ['**/dist/**', '**/dist-types/**', '**/node_modules/**', '.data*/**', 'web/src/api/schema.ts'] },
  ...typescript.configs.recommended,
  ...vue.configs['flat/essential'],
  {
    languageOptions: { globals: { ...globals.node } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-undef': 'off',
      'max-lines': ['error', { max: 500, skipComments: true }],
    },
  },
  {
    files: ['web/**/*.vue'],
    languageOptions: {
      parser: vueParser,
      parserOptions: { parser: typescript.parser },
      globals: globals.browser,
    },
    rules: { 'vue/multi-word-component-names': 'off' },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.test.ts', 'core/src/**/*.testing.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        ...impureGlobals.map((name) => ({
          name,
          message: 'core is pure: time, chance and I/O arrive with events.',
        })),
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Use the seeded generator.' },
      ],
    },
  },
);
