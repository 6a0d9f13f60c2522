// Tests ask worker threads of a bundle, as the server does: from sources each thread takes seconds to load.
import { build } from 'vite'
import { newest } from '../../scripts/setup.mjs'

const OUT = 'test-results/workers'

export default async function buildWorkers() {
  const sources = ['core', 'contract', 'server', 'vite.server.config.ts'].map(newest)
  if (Math.max(...sources) <= newest(`${OUT}/files.js`)) return
  await build({ configFile: 'vite.server.config.ts', logLevel: 'error', build: { outDir: OUT } })
}
