import { defineConfig } from '@playwright/test';

/** Drives the application that E2E_BASE_URL names; scripts/test.mjs starts one on data of its own. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  workers: 2,
  // A busy machine is no failure: what waits for the server may take its time.
  timeout: 600_000,
  expect: { timeout: 90_000 },
  forbidOnly: true,
  reporter: [
    ['list'],
    ...(process.env['E2E_SUMMARY']
      ? [['json', { outputFile: process.env['E2E_SUMMARY'] }] as ['json', { outputFile: string }]]
      : []),
  ],
  use: {
    baseURL: process.env['E2E_BASE_URL'] ?? 'http://127.0.0.1:4870',
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    // Pages come from the server; the story of work without a network alone has them kept.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
