import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/** The page. `npm run demo` serves the built one; for work on it, `npx vite` beside a running server. */
export default defineConfig({
  root: 'web',
  plugins: [react(), tailwind()],
  build: {
    assetsInlineLimit: 0,
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2023',
    chunkSizeWarningLimit: 1200,
  },
  worker: { format: 'es' },
  server: {
    proxy: {
      '/api': {
        target: `http://127.0.0.1:${process.env.SATCHEL_PORT ?? 4173}`,
        changeOrigin: true,
      },
    },
  },
});
