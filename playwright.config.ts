import { defineConfig } from '@playwright/test';
import { chromium } from './tools/setup.mjs';
import { scaleTimeout } from './tests/support/scale.ts';

export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/support/global-setup.ts',
  testMatch: '*.browser.ts',
  // Upper bounds, not waits: a machine may carry many times its load.
  timeout: scaleTimeout(900_000),
  expect: { timeout: scaleTimeout(90_000) },
  workers: 2,
  fullyParallel: true,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: chromium() ?? '/usr/bin/chromium',
      args: ['--disable-quic', '--autoplay-policy=no-user-gesture-required'],
    },
    acceptDownloads: true,
    // What is not there by then will not come.
    actionTimeout: scaleTimeout(90_000),
    trace: 'retain-on-failure',
  },
});
