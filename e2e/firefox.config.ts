import { defineConfig } from '@playwright/test'
import everything from '../playwright.config'
import { FIREFOX } from './firefox/debian'

/** The run by mouse in Debian's Firefox, through WebDriver BiDi. */
export default defineConfig({
  ...everything,
  testDir: '.',
  testMatch: 'run-by-mouse.e2e.ts',
  globalSetup: './make-demo.ts',
  outputDir: '../test-results/firefox',
  timeout: 300_000,
  use: { viewport: { width: 1280, height: 800 }, acceptDownloads: true, ...FIREFOX },
})
