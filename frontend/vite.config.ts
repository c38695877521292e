import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';
import { wuchale } from 'wuchale/vite';

const server = 'http://127.0.0.1:8722';

export default defineConfig({
  plugins: [wuchale(), tailwindcss(), svelte()],
  build: { outDir: '../src/orexis/web', emptyOutDir: true, assetsInlineLimit: 0 },
  server: { proxy: { '/api': { target: server, ws: true } } },
  resolve: { conditions: ['browser'] },
  test: { environment: 'node', include: ['src/**/*.test.ts'] },
});
