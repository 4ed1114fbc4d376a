import { svelte } from '@sveltejs/vite-plugin-svelte';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';
import { operationIcons } from './operation-icons.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

// the kit's own plugin would skip these tests without a word, with exit code 0
export default defineConfig({
  plugins: [operationIcons(), svelte({ configFile: here('./svelte.config.js') })],
  resolve: { alias: { $lib: here('./src/lib') } },
  test: { name: 'app', root: here('.'), include: ['src/**/*.test.ts'], testTimeout: 120_000 }
});
