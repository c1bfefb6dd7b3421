import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      '{core,contracts,demo,server,web}/**/*.test.ts',
      'tests/{http,faults,corpus,sound}/**/*.test.ts',
    ],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    maxWorkers: 2,
    globalSetup: 'tests/support/global-setup.ts',
  },
});
