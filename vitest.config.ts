import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,contracts,demo,server,web}/**/*.test.ts', 'tests/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
});
