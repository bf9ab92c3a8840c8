import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';

/** The messages' library puts its styles into the page by script, which the page's security policy forbids; they are imported as the file that it ships (main.tsx). */
const stylesFromFile: Plugin = {
  name: 'styles-from-file',
  transform: (code, id) => (id.endsWith('/sonner/dist/index.mjs') ? code.replace(/^__insertCSS\(".*"\);?$/m, '') : undefined),
};

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  plugins: [react(), tailwindcss(), stylesFromFile],
  server: { proxy: { '/api': 'http://127.0.0.1:5177' } },
  build: { chunkSizeWarningLimit: 900 },
  // Each file leaves nothing behind, so that they need no process of their own each.
  test: { pool: 'threads', isolate: false, environment: 'node', include: ['src/**/*.test.{ts,tsx}'] },
});
