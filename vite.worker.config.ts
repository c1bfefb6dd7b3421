import { defineConfig } from 'vite';

/**
 * The worker threads, as CommonJS: a thread may be ended at any moment, and Node 20 stops the whole process
 * where one is ended while it loads an ES module.
 */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'dist/server',
    emptyOutDir: false,
    rollupOptions: {
      input: { worker: 'server/threads/worker.ts' },
      output: { format: 'cjs', entryFileNames: '[name].cjs' },
    },
  },
  ssr: { noExternal: true },
});
