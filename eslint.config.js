import svelte from 'eslint-plugin-svelte';
import tseslint from 'typescript-eslint';
import svelteConfig from './app/svelte.config.js';

/** The core runs in Node, in a worker and on the server: nothing of the page may be used in it. */
const pageGlobals = ['window', 'document', 'navigator', 'localStorage', 'fetch', 'HTMLElement', 'requestAnimationFrame'];

/** What is outside the core takes of it what `core/src/index.ts` names, and nothing past it. */
const pastTheBoundary = {
  group: ['@ulvrin/core/*', '**/src/*', '**/src/**', '!**/src/index.ts', '!**/src', '!**/src/lib/**'],
  message: 'Take it from @ulvrin/core (core/src/index.ts); name it there if it is missing.'
};

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/',
      'app/build/',
      '**/dist/',
      '**/.svelte-kit/',
      'app/static/',
      '.setup/',
      'coverage/',
      '**/test-results/',
      '**/playwright-report/'
    ]
  },
  ...tseslint.configs.recommended,
  ...svelte.configs.recommended,
  {
    files: ['**/*.ts', '**/*.svelte', '**/*.mjs', '**/*.js'],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      '@typescript-eslint/no-unused-expressions': ['error', { allowShortCircuit: true, allowTernary: true }]
    }
  },
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: tseslint.parser, extraFileExtensions: ['.svelte'], svelteConfig } },
    // maps, sets and dates are kept raw on purpose: what they hold is replaced, not changed
    rules: { 'svelte/prefer-svelte-reactivity': 'off' }
  },
  // $props() is destructured with `let`, as its bindable members are assigned
  { files: ['**/*.svelte'], rules: { 'prefer-const': 'off' } },
  {
    files: ['core/src/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', ...pageGlobals],
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['*app/*', '$lib/*', 'svelte*', 'three*', 'node:*'], message: 'The core computes only: no interface code, no Node modules.' }
          ]
        }
      ]
    }
  },
  {
    files: ['app/**/*.ts', 'app/**/*.svelte', 'core/cli/**/*.ts', 'scripts/**/*.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: [pastTheBoundary] }] }
  }
);
