import { sveltekit } from '@sveltejs/kit/vite';
import { optimizeCss } from 'carbon-preprocess-svelte';
import { defineConfig, type Plugin } from 'vite';
import { operationIcons } from './operation-icons.ts';

/** Carbon's style sheet asks an outside server for its fonts; the application ships its own. */
const withoutOutsideFonts: Plugin = {
  name: 'without-outside-fonts',
  enforce: 'pre',
  transform(code, id) {
    if (/carbon-components-svelte\/css\/.*\.css/.test(id)) return { code: code.replace(/@font-face\s*\{[^}]*\}/g, ''), map: null };
  }
};

/** What a page needs to be isolated, so that workers may share memory. */
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin'
};

export default defineConfig({
  plugins: [withoutOutsideFonts, operationIcons(), sveltekit(), optimizeCss()],
  worker: { format: 'es' },
  server: { headers: isolation, fs: { allow: ['..'] } },
  optimizeDeps: {
    include: [
      'comlink',
      'dexie',
      'echarts/core',
      'echarts/charts',
      'echarts/components',
      'echarts/renderers',
      'joi',
      'three',
      'three-mesh-bvh',
      'fflate',
      'earcut'
    ]
  },
  build: { chunkSizeWarningLimit: 900 }
});
