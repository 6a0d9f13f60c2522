// npm run soak: the properties with a new seed and many more cases. SOAK_SEED repeats a run, SOAK_TIMES says how many more.
import { randomInt } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensureInstalled, run, say } from './setup.mjs'

ensureInstalled()
const seed = process.env.SOAK_SEED ?? String(randomInt(1, 2 ** 31))
const times = process.env.SOAK_TIMES ?? '20'

const testsBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? testsBelow(join(folder, entry.name)) : entry.name.endsWith('.test.ts') ? [join(folder, entry.name)] : [],
  )
const withProperties = ['core', 'contract', 'server', 'web', 'demo']
  .flatMap(testsBelow)
  .filter((file) => /from 'fast-check'/.test(readFileSync(file, 'utf8')))

say(
  `Seed ${seed}, ${times} times as many cases, ${withProperties.length} files. The same again: SOAK_SEED=${seed} SOAK_TIMES=${times} npm run soak`,
)
const code = run('node_modules/.bin/jest', withProperties, { env: { ...process.env, SOAK_SEED: seed, SOAK_TIMES: times } })
if (code !== 0) say(`Something failed with seed ${seed}: pin the counterexample it printed as an example of its property.`)
process.exit(code)
