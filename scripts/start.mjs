// npm start: the production server over the data in LEVEL_TABLE_DATA.
import { ensureBuilt, ensureInstalled, say, startServer } from './setup.mjs'

ensureInstalled()
ensureBuilt()
const { address } = await startServer({ LOG_LEVEL: process.env.LOG_LEVEL ?? 'info' })
say(`Level Table is at ${address}.`)
