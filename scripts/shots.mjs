// npm run shots: retakes docs/screenshots from fresh demo data.
import { ensureBuilt, ensureChromium, ensureInstalled, run } from './setup.mjs'

ensureInstalled()
ensureChromium()
ensureBuilt()
process.exit(run('node_modules/.bin/playwright', ['test', '--config=e2e/shots.config.ts']))
