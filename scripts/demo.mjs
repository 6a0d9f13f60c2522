// npm run demo: sets up what is missing, makes the demo department if there is none, starts the server.
import { ensureBuilt, ensureInstalled, run, say, startServer } from './setup.mjs'

ensureInstalled()
ensureBuilt()
const code = run(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'demo/main.ts', ...process.argv.slice(2)])
if (code !== 0) process.exit(code)
const { address } = await startServer()
say(`Level Table is at ${address} (Ctrl+C ends it).`)
