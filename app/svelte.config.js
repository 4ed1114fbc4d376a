import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';
import { optimizeImports } from 'carbon-preprocess-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: [vitePreprocess(), optimizeImports()],
  kit: {
    adapter: adapter({ out: 'build' }),
    typescript: { config: (config) => ({ ...config, include: [...config.include, '../e2e/**/*.ts', '../playwright.config.ts'] }) }
  }
};
