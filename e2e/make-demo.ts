import { execFileSync } from 'node:child_process'
import { rmSync } from 'node:fs'

export const TEMPLATE = 'test-results/demo-data'

/** Builds the demo department once; every test gets a copy of its own. */
export default function makeDemo(): void {
  rmSync(TEMPLATE, { recursive: true, force: true })
  execFileSync(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'demo/main.ts', '--fresh', '--data', TEMPLATE], {
    stdio: ['ignore', 'ignore', 'inherit'],
  })
}
