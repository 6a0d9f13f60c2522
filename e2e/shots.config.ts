import base from '../playwright.config'

/** Retakes the pictures of the main views: `npm run shots`. */
export default {
  ...base,
  testDir: '.',
  testMatch: 'take-shots.ts',
  outputDir: '../test-results/shots',
  globalSetup: './make-demo.ts',
  workers: 1,
}
