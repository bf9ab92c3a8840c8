import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  outputDir: '../../.build/test-results',
  timeout: 60_000,
  workers: 2,
  expect: { timeout: 15_000 },
  reporter: 'list',
  globalSetup: './demo.ts',
  use: {
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    // Movement is for eyes; drawing it takes a third of the time.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
