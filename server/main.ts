import { join } from 'node:path'
import { pino } from 'pino'
import { createApp } from './app'
import type { SetUpCode } from './access/set-up-code'
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

const { port, host, data, logLevel, proxies, origin, clock, mail } = settingsOrEnd()
const log = pino({ level: logLevel, base: null })
const db = openDatabase(join(data, 'level-table.db'))
const built = import.meta.url.endsWith('.js')
let address = origin ?? `http://${host}:${port}`
const app = createApp(db, {
  log,
  proxies,
  origin,
  clock,
  mail,
  address: () => address,
  webFolder: join(process.cwd(), 'dist/web'),
  workers: built ? { filename: join(process.cwd(), 'dist/server/files.js') } : undefined,
})
const server = app.listen(port, host, (error) => {
  if (error) {
    log.fatal({ err: error }, `cannot listen on ${host}:${port}`)
    process.exit(1)
  }
  const bound = server.address()
  const at = typeof bound === 'object' && bound ? bound.port : port
  address = origin ?? `http://${host}:${at}`
  log.info({ host, port: at }, 'listening')
  const setUp = app.locals.setUp as SetUpCode
  // For whoever sits at the console, and not for the log.
  if (setUp.nobodyIsHere()) console.error(`\nNobody is here yet. Set this installation up at ${address}\nwith the code  ${setUp.code}\n`)
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
