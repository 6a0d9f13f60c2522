import { join } from 'node:path'
import { pino } from 'pino'
import { createApp } from './app'
import { openDatabase } from './db/open'
import { readSettings, SettingError, type Settings } from './settings'

// What is made here, by whatever part or library, is for the server's own account alone.
process.umask(0o077)

function settingsOrEnd(): Settings {
  try {
    return readSettings(process.env)
  } catch (e) {
    if (!(e instanceof SettingError)) throw e
    console.error(e.message)
    process.exit(1)
  }
}

const { port, host, data, logLevel, proxies, origin, clock } = settingsOrEnd()
const log = pino({ level: logLevel, base: null })
const db = openDatabase(join(data, 'level-table.db'))
const built = import.meta.url.endsWith('.js')
const app = createApp(db, {
  log,
  proxies,
  origin,
  clock,
  webFolder: join(process.cwd(), 'dist/web'),
  workers: built ? { filename: join(process.cwd(), 'dist/server/files.js') } : undefined,
})
const server = app.listen(port, host, (error) => {
  if (error) {
    log.fatal({ err: error }, `cannot listen on ${host}:${port}`)
    process.exit(1)
  }
  const address = server.address()
  log.info({ host, port: typeof address === 'object' ? address?.port : port }, 'listening')
})

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    server.close(() => {
      clearInterval(closing)
      db.close()
      void (app.locals.stop as () => Promise<void>)().finally(() => process.exit(0))
    })
    // Pages that listen for changes never hang up, and one may have been let in as the door closed.
    server.closeAllConnections()
    const closing = setInterval(() => server.closeAllConnections(), 100)
  })
