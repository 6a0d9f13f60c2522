// npm test: everything that must hold, on a machine that has only Node and npm. The last line counts it.
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { ensureBuilt, ensureBrowsers, ensureInstalled, run, runQuietly, say } from './setup.mjs'

ensureInstalled()
ensureBrowsers()

let passed = 0
let failed = 0
const out = 'test-results'
rmSync(out, { recursive: true, force: true })
mkdirSync(out, { recursive: true })

/** Checks that hold or not, two at a time; what each prints stands together. */
async function checks(all) {
  const left = [...all]
  const one = async () => {
    for (let next = left.shift(); next; next = left.shift()) {
      const [name, command, args] = next
      const { code, printed } = await runQuietly(command, args)
      say(code === 0 ? name : `${name}: FAILED`)
      process.stdout.write(printed)
      if (code === 0) passed++
      else failed++
    }
  }
  await Promise.all([one(), one()])
}

/** A runner that counts its own tests in a JSON report; without a report it counts as one failure. */
function suite(name, command, args, env, read) {
  say(name)
  const code = run(command, args, { env: { ...process.env, ...env } })
  try {
    const counts = read()
    passed += counts.passed
    failed += counts.failed
    if (code !== 0 && counts.failed === 0) failed++
  } catch {
    failed++
    say(`${name}: no report was written, so it counts as failed`)
  }
}

const bin = (name) => `node_modules/.bin/${name}`
const json = (file) => JSON.parse(readFileSync(`${out}/${file}`, 'utf8'))

await checks([
  ['Lint', bin('eslint'), ['.', '--max-warnings=0']],
  ['Types', bin('tsc'), ['--noEmit']],
  ['Formatting', bin('prettier'), ['--check', '--log-level=warn', '.']],
  ['Nothing unused', bin('knip'), ['--no-progress']],
  ['Dependency rule', bin('depcruise'), ['core', 'contract', 'server', 'web', 'demo', 'e2e', 'bench']],
])
suite('Core, contract and server', bin('jest'), ['--json', `--outputFile=${out}/jest.json`], {}, () => {
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = json('jest.json')
  return { passed: numPassedTests, failed: numFailedTests + numRuntimeErrorTestSuites }
})
ensureBuilt({ always: true })
passed++
suite(
  'The interface in the browsers',
  bin('playwright'),
  ['test', '--reporter=list,json'],
  { PLAYWRIGHT_JSON_OUTPUT_NAME: `${out}/playwright.json` },
  () => {
    const { expected, unexpected, flaky } = json('playwright.json').stats
    return { passed: expected, failed: unexpected + flaky }
  },
)

console.log(`${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
