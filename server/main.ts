import { join } from 'node:path'
import { pino } from 'pino'
import { createApp } from './app'
import type { SetUpCode } from './kernel/access/set-up-code'
import { settingsOrEnd } from './commands/settings-or-end'
import { NewerDatabaseError, openDatabase } from './kernel/db/open'
import { DataHeldError, holdData } from './areas/keeping/hold-data'
import { isLoopback } from './kernel/loopback'
import { signOnDirectory } from './standins/sign-on'

// What is made here, by whatever part or library, is for the server's own account alone.
process.umask(0o077)

/** What is still being written when the server is told to stop has this long. */
const LONGEST_STOP_MS = 10_000

const { port, host, data, logLevel, proxies, origin, clock, mail, keeping, metrics, demoAnywhere, signOnSecret, signOnStandIn } =
  settingsOrEnd()
const log = pino({ level: logLevel, base: null })
const letGo = holdOrEnd()
const db = openOrEnd()
if (signOnDirectory(db)().passphrase !== null && !isLoopback(host) && !demoAnywhere) {
  console.error(
    `The data in ${data} is the demo’s, whose passphrase everybody knows, and ${host} is an address that others reach. Start it on 127.0.0.1, or with LEVEL_TABLE_DEMO_ANYWHERE=yes if that is meant.`,
  )
  process.exit(1)
}
const built = import.meta.url.endsWith('.js')
let address = origin ?? `http://${host}:${port}`
const app = createApp(db, {
  log,
  proxies,
  origin,
  clock,
  mail,
  keeping,
  metrics,
  signOn: { secret: signOnSecret, standIn: signOnStandIn, seconds: () => 8 },
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
  void (app.locals.readAhead as () => Promise<void>)()
  const setUp = app.locals.setUp as SetUpCode
  // For whoever sits at the console, and not for the log.
  if (setUp.nobodyIsHere()) console.error(`\nNobody is here yet. Set this installation up at ${address}\nwith the code  ${setUp.code}\n`)
})
const endLooking = (app.locals.startLooking as () => () => void)()

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    log.info({ signal }, 'stopping')
    endLooking()
    server.close(() => {
      clearInterval(closing)
      clearTimeout(enough)
      db.close()
      letGo()
      void (app.locals.stop as () => Promise<void>)().finally(() => process.exit(0))
    })
    // Pages that listen for changes never hang up by themselves, and one may have been let in as the door closed.
    const hangUp = () => {
      ;(app.locals.hangUp as () => void)()
      server.closeIdleConnections()
    }
    hangUp()
    const closing = setInterval(hangUp, 100)
    const enough = setTimeout(() => server.closeAllConnections(), LONGEST_STOP_MS)
  })

function openOrEnd() {
  try {
    return openDatabase(join(data, 'level-table.db'), undefined, (migrated) =>
      log.info(migrated, 'the database was brought to a newer version; a copy as it was lies beside the backups'),
    )
  } catch (e) {
    letGo()
    if (!(e instanceof NewerDatabaseError)) throw e
    console.error(e.message)
    process.exit(1)
  }
}

function holdOrEnd(): () => void {
  try {
    return holdData(data)
  } catch (e) {
    if (!(e instanceof DataHeldError)) throw e
    console.error(e.message)
    process.exit(1)
  }
}
