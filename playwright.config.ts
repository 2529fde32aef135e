import { defineConfig } from '@playwright/test';

const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--disable-dev-shm-usage',
  '--autoplay-policy=no-user-gesture-required',
  // Without these the browser keeps calling hosts that are not there.
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-quic',
  '--no-first-run',
];

export default defineConfig({
  testDir: 'tests/browser',
  // Specs side by side; each has a server of its own.
  workers: 2,
  timeout: 120_000,
  // An analysis beside another spec’s encodes takes its time.
  expect: { timeout: 45_000 },
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium', args: CHROMIUM_FLAGS },
  },
});
