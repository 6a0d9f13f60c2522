// npm run person, backup, restore: one of the server's own commands, built where that is needed.
import { ensureBuilt, ensureInstalled, run } from './setup.mjs'

const [name, ...rest] = process.argv.slice(2)
ensureInstalled()
ensureBuilt()
process.exit(run(process.execPath, [`dist/server/${name}.js`, ...rest]))
