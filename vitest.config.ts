import { defineConfig } from 'vitest/config';
import { scaleTimeout } from './tests/support/scale.ts';

/**
 * Unit tests: no database, no server, no browser. What needs those is in vitest.server.config.ts.
 * Files share the modules they import, since importing costs more than testing; each has its own database
 * of nothing, so order does not matter.
 */
export default defineConfig({
  test: {
    include: [
      '{core,contracts,demo,server,web,tools}/**/*.test.{ts,tsx}',
      'tests/unit/**/*.test.ts',
    ],
    testTimeout: scaleTimeout(120_000),
    hookTimeout: scaleTimeout(120_000),
    maxWorkers: 2,
    isolate: false,
    // npm run coverage prints it.
    coverage: {
      provider: 'v8',
      include: ['{core,contracts,server,web}/**/*.{ts,tsx}'],
      exclude: ['**/*.test.{ts,tsx}'],
      reporter: ['text-summary', 'json-summary'],
    },
  },
});
