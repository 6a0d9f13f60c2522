// npm run shots: retakes docs/screenshots from fresh demo data.
import { ensureBuilt, ensureBrowsers, ensureInstalled, run } from './setup.mjs'

ensureInstalled()
ensureBrowsers()
ensureBuilt()
process.exit(run('node_modules/.bin/playwright', ['test', '--config=e2e/shots.config.ts']))
