import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      '{core,contracts,demo,server,web}/**/*.test.{ts,tsx}',
      'tests/{http,faults,corpus,sound}/**/*.test.ts',
    ],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    maxWorkers: 2,
    // npm run coverage prints it; the tests that measure time run without it.
    coverage: {
      provider: 'v8',
      include: ['{core,contracts,server,web}/**/*.{ts,tsx}'],
      exclude: ['**/*.test.{ts,tsx}'],
      reporter: ['text-summary', 'json-summary'],
    },
    globalSetup: 'tests/support/global-setup.ts',
  },
});
