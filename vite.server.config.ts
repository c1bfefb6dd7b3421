import { defineConfig } from 'vite';

/** The server as plain JavaScript for Node; its worker threads are built by vite.worker.config.ts. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist/server',
    emptyOutDir: true,
    rollupOptions: { input: { index: 'server/index.ts', seed: 'tools/seed.ts' } },
  },
});
