import { defineConfig } from '@playwright/test'

const ARGS = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.e2e.ts',
  outputDir: 'test-results/e2e',
  globalSetup: './e2e/make-demo.ts',
  fullyParallel: true,
  workers: 2,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    acceptDownloads: true,
    launchOptions: { executablePath: '/usr/bin/chromium', args: ARGS },
  },
})
