import { defineConfig } from 'vite';

/** The server and its worker as plain JavaScript for Node. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist/server',
    emptyOutDir: true,
    rollupOptions: { input: { index: 'server/index.ts', worker: 'server/threads/worker.ts', seed: 'tools/seed.ts' } },
  },
});
