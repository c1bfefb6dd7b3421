import { defineConfig } from 'vitest/config';
import { scaleTimeout } from './tests/support/scale.ts';

/** What needs the built server and PostgreSQL: the API, and in the deep run faults, damaged files and sound. */
export default defineConfig({
  test: {
    include: ['tests/{http,faults,corpus,sound}/**/*.test.ts'],
    testTimeout: scaleTimeout(120_000),
    hookTimeout: scaleTimeout(120_000),
    maxWorkers: 2,
    isolate: false,
    globalSetup: 'tests/support/global-setup.ts',
  },
});
