import compression from 'compression'
import express, { type ErrorRequestHandler, type Express, type Request, type Response } from 'express'
import helmet from 'helmet'
import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { routes } from '#contract'
import { auditList } from './kernel/access/audit'
import { installationSettings } from './kernel/access/installation-settings'
import { lettingIn } from './kernel/access/let-in'
import { sessions } from './kernel/access/sessions'
import { setUpCode } from './kernel/access/set-up-code'
import { waysIn } from './kernel/access/ways-in'
import { addressInLog } from './kernel/log-address'
import { lookAgain } from './kernel/look-again'
import { isLoopback } from './kernel/loopback'
import { clockIn, machineZone, type Clock } from './kernel/clock'
import { confirmRoutes } from './areas/confirm/routes'
import { announcing } from './areas/records/announce'
import { recordsRoutes } from './areas/records/routes'
import { packageRoutes } from './areas/keeping/package-routes'
import { keepingRoutes } from './areas/keeping/routes'
import { deliveryRoutes } from './areas/deliveries/routes'
import { deskRoutes } from './areas/marking/desk-routes'
import { furtherReadingRoutes } from './areas/sharing/further-readings'
import { byStandingRoutes } from './areas/marking/by-standing'
import { judgedRoutes } from './areas/marking/judged'
import { judgedKept } from './workers/judged-kept'
import { handOverRoutes } from './areas/sharing/hand-over'
import { markingRoutes } from './areas/marking/routes'
import { sharingRoutes } from './areas/sharing/routes'
import { startingMarkRoutes } from './areas/marking/starting-mark'
import { lookRoutes } from './areas/people/look-routes'
import { accountRoutes } from './areas/door/account-routes'
import { coursePeopleRoutes } from './areas/people/course-people'
import { inviter } from './kernel/access/invite'
import { personRoutes } from './areas/people/list-routes'
import { doorRoutes } from './areas/door/routes'
import { signOnRoutes } from './areas/door/sign-on-routes'
import { studentRoutes } from './areas/student/routes'
import { ideaRoutes } from './areas/ideas/routes'
import { lineListRoutes } from './areas/line-lists/routes'
import { noteRoutes } from './areas/notes/routes'
import { postRoutes } from './areas/post/routes'
import { outcomeRoutes } from './areas/outcomes/routes'
import { classRoutes } from './areas/classes/routes'
import { calendarRoutes } from './areas/calendars/routes'
import { placementRoutes } from './areas/placements/routes'
import { installedCourseRoutes } from './areas/courses/installed-courses'
import { copyRoutes } from './areas/courses/copy'
import { packedAssessmentRoutes } from './areas/plan/packed-routes'
import { planRoutes } from './areas/plan/routes'
import { wholePlanRoutes } from './areas/plan/whole-plan'
import { gradeSetRoutes } from './areas/plan/grade-sets'
import { startCourseRoutes } from './areas/courses/start-course'
import { broughtIn } from './areas/roll/brought-in'
import { rollFileRoutes } from './areas/roll/file-routes'
import { rosterOf } from './areas/roll/roster'
import { rollQueries } from './areas/roll/queries'
import { rollRoutes } from './areas/roll/routes'
import { scaleRoutes } from './areas/library/routes'
import { courseWrites } from './kernel/course/course-writes'
import { outcomeNews } from './kernel/outcomes/news'
import { planLoader } from './kernel/course/load-plan'
import { issuedResults } from './kernel/course/issued-results'
import { readAhead } from './kernel/course/read-ahead'
import { tableLoader } from './kernel/course/load-table'
import { workedOut } from './kernel/course/worked-out'
import { letterSender } from './kernel/letters'
import { tableRoutes } from './areas/courses/table-routes'
import { tuningRoutes } from './areas/exemplars/routes'
import { trialRoutes } from './areas/trials/routes'
import { diskCheck, isDiskFull } from './kernel/db/disk'
import { fileGate } from './kernel/db/file-gate'
import type { Db } from './kernel/db/open'
import { registrar } from './kernel/http'
import { keeper } from './areas/keeping/schedule'
import { defaultFolder, type KeepingSettings } from './kernel/settings'
import { countWork } from './kernel/metrics'
import { openapi } from './kernel/openapi'
import { standInFaults } from './standins/faults'
import { recordsOffice } from './standins/records-office'
import { post, type MailServer } from './standins/post'
import { signOnDirectory } from './standins/sign-on'
import { PROVIDER_PATH, signOnProvider } from './standins/sign-on-provider'
import { submissionBox } from './standins/submission-box'
import { HttpProblem, problemHandler } from './kernel/problem'
import { workerPool, type WorkerSource } from './workers/pool'

interface SignOnOptions {
  /** Which the provider gave for this installation; null where it asks for none. */
  secret: string | null
  /** Whether the stand-in provider is served also where the data is not the demo’s. */
  standIn: boolean
  /** Seconds that a provider may take to answer. */
  seconds: () => number
}

interface AppOptions {
  log?: Logger
  /** Holds the built pages; without one it is the API alone. */
  webFolder?: string
  /** Where the built workers are; without it they run from their sources. */
  workers?: WorkerSource
  clock?: Clock
  /** How many proxies before the server are believed. */
  proxies?: number
  /** Under which address people reach it; null where whatever they ask for will do. */
  origin?: string | null
  /** A real mail server; without one the post is a stand-in. */
  mail?: MailServer | null
  /** Where and how often backups are made; beside the data, and only when asked for, where nothing is said. */
  keeping?: KeepingSettings
  /** Whether figures of the process are given out at /metrics. */
  metrics?: boolean
  /** Where links in letters lead. */
  address?: () => string
  signOn?: SignOnOptions
}

// Events go out as they happen and are not held back to be packed.
const packable: typeof compression.filter = (req, res) =>
  !String(res.getHeader('content-type')).startsWith('text/event-stream') && compression.filter(req, res)

/** What watches over the server asks it on its own machine, past the proxy. */
const isOwnCheck = (req: Request): boolean =>
  ['/api/health', '/metrics'].includes(req.path) &&
  isLoopback(req.socket.remoteAddress ?? '') &&
  isLoopback((req.get('host') ?? '').replace(/:\d+$/, ''))

/**
 * The whole server over an open database. `app.locals.stop` ends its worker threads; `app.locals.setUp` has the code for whoever sets
 * it up.
 */
export function createApp(
  db: Db,
  {
    log,
    webFolder,
    workers,
    clock = clockIn(machineZone()),
    proxies = 0,
    origin = null,
    mail = null,
    keeping,
    metrics = false,
    address = () => origin ?? 'http://127.0.0.1',
    signOn = { secret: null, standIn: false, seconds: () => 8 },
  }: AppOptions = {},
): Express {
  const app = express()
  const pool = workerPool(workers)
  let stopping = false
  app.disable('x-powered-by')
  app.set('trust proxy', proxies)
  if (log)
    app.use(
      pinoHttp({
        logger: log,
        // Addresses name ids only; bodies and headers, where names and cookies are, stay out of the log and are not read for it.
        wrapSerializers: false,
        serializers: {
          req: (r: Request) => ({ method: r.method, url: addressInLog(r.originalUrl) }),
          res: (r: Response) => ({ status: r.headersSent ? r.statusCode : null }),
        },
      }),
    )
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          baseUri: ["'none'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  )
  const host = origin === null ? null : new URL(origin).host
  app.use((req, res, next) => {
    if (req.secure) res.set('strict-transport-security', 'max-age=31536000; includeSubDomains')
    if (host !== null && req.get('host') !== host && !isOwnCheck(req))
      throw new HttpProblem(421, `This server is reached at ${origin}, and at no other address.`)
    next()
  })
  if (metrics) countWork(app)
  // Answers change with every write, so they are packed quickly; the pages' files are packed well.
  app.use('/api', compression({ level: 1, filter: packable }))
  // No answer is kept, so that none needs a mark to be known again by.
  app.set('etag', false)
  app.use('/api', (_req, res, next) => {
    res.set('cache-control', 'no-store')
    next()
  })

  const gate = fileGate()
  app.use('/api', (req, _res, next) => (req.path === '/health' ? next() : gate.pass(next)))
  const signIns = sessions(db)
  const audit = auditList(db)
  // Whoever listens is told to come again; what is being written is let finish.
  app.locals.hangUp = () => {
    stopping = true
    signIns.hangUp()
  }
  const handle = registrar(app, db, signIns, audit, origin)
  const plans = planLoader(db)
  const tables = tableLoader(db, plans)
  const writes = courseWrites(db, tables.keepMarks)
  // Addresses are looked through in this order: what is asked most comes first.
  tableRoutes(handle, db, plans, tables, writes, signIns)
  markingRoutes(handle, db, plans, tables, writes, pool)
  deskRoutes(handle, db, tables, writes)
  trialRoutes(handle, db, plans, tables, writes)
  const disk = diskCheck(db)
  const description = openapi()
  handle(routes.openapi, () => description)
  handle(routes.health, () => {
    if (stopping) throw new HttpProblem(503, 'The server is stopping.')
    if (!disk.canWrite()) throw new HttpProblem(503, 'The server cannot write: its disk is full.')
    return { ok: true as const }
  })
  // The stand-ins keep their files beside the database.
  const data = dirname(db.name)
  const faults = standInFaults(db)
  const letters = post(join(data, 'post'), faults, mail)
  const keepingOf = keeper(db.name, keeping ?? { folder: defaultFolder(data), hours: 0, keep: 14 }, pool, log)
  keepingRoutes(handle, keepingOf, audit)
  app.locals.stop = () => keepingOf.stop(pool.stop)
  packageRoutes(handle, db, pool, audit)
  const setUp = setUpCode(db)
  app.locals.setUp = setUp
  const ways = waysIn(db)
  const settings = installationSettings(db)
  const door = lettingIn(db, signIns, clock)
  const invite = inviter(db, { ways, post: letters, audit, settings, address })
  doorRoutes(handle, db, signIns, { audit, ways, setUp, settings, door, plans })
  const issuer = () => `${address()}${PROVIDER_PATH}`
  const directory = signOnDirectory(db)
  const hasStandIn = () => signOn.standIn || directory().passphrase !== null
  signOnRoutes(handle, db, {
    audit,
    ways,
    settings,
    door,
    origin,
    secret: signOn.secret,
    seconds: signOn.seconds,
    standIn: () => (hasStandIn() ? issuer() : null),
  })
  const provider = signOnProvider(issuer, settings.mode)
  app.use(PROVIDER_PATH, (req, res, next) => (hasStandIn() ? provider(req, res, next) : next()))
  accountRoutes(handle, db, signIns, audit)
  personRoutes(handle, db, signIns, { audit, ways, invite, pool })
  lookRoutes(handle, db, signIns, audit)
  startCourseRoutes(handle, db, plans, audit)
  installedCourseRoutes(handle, db, plans, writes, { audit, pool, settings, clock, gate })
  coursePeopleRoutes(handle, db, writes, { audit, invite })
  planRoutes(handle, db, plans, writes)
  wholePlanRoutes(handle, db, plans, writes)
  gradeSetRoutes(handle, db, plans)
  copyRoutes(handle, db, plans, writes)
  packedAssessmentRoutes(handle, db, plans, writes, pool)
  const announced = announcing(db, letters, pool, clock)
  placementRoutes(handle, db, plans, writes, announced, clock)
  calendarRoutes(handle, db, plans, address, clock)
  const roll = rollQueries(db)
  rollRoutes(handle, db, plans, roll, writes)
  const roster = rosterOf(db)
  rollFileRoutes(handle, db, { roll, roster, files: broughtIn(db, roll, roster), pool, writes })
  const worked = workedOut(tables, writes)
  // Nobody waits for it: where it comes to nothing, the course is read when it is asked for.
  app.locals.readAhead = () => readAhead(db, tables).catch((e: unknown) => log?.debug({ err: e }, 'not read ahead'))
  const issued = issuedResults((courseId, number) =>
    pool.issueParts({ file: db.name, courseId, number }, { personId: `issue ${courseId} ${number}` }),
  )
  studentRoutes(handle, db, { plans, worked, issued, send: letterSender(db, letters), clock })
  classRoutes(handle, db, plans, worked, issued, clock)
  const news = outcomeNews()
  scaleRoutes(handle, db, tables, writes, pool, news)
  tuningRoutes(handle, db, writes)
  sharingRoutes(handle, db, tables, writes)
  handOverRoutes(handle, db, tables, writes)
  const judged = judgedKept(db, pool)
  judgedRoutes(handle, judged)
  ideaRoutes(handle, db)
  outcomeRoutes(handle, db, { plans, pool, news, judged })
  byStandingRoutes(handle, db, { plans, tables, writes, pool, news })
  lineListRoutes(handle, db, plans)
  noteRoutes(handle, db)
  furtherReadingRoutes(handle, db, tables, writes)
  deliveryRoutes(handle, db, plans, writes, submissionBox(join(data, 'submission-box'), faults, pool), faults, pool, clock)
  postRoutes(handle, db, plans, letters, faults, audit)
  startingMarkRoutes(handle, db, plans, tables, writes)
  confirmRoutes(handle, db, writes, { tables, pool, audit, announcing: announced })
  const office = recordsOffice(join(data, 'records-office'), faults)
  recordsRoutes(handle, db, writes, { pool, office, announcing: announced, clock })
  const lettersDue = () => announced.due().catch((err: unknown) => log?.error({ err }, 'letters that are due did not go out'))
  app.locals.startLooking = () => {
    const ends = [keepingOf.start(), lookAgain(lettersDue)]
    return () => ends.forEach((end) => end())
  }

  app.use('/api', () => {
    throw new HttpProblem(404, 'There is no such address here. GET /api/openapi.json lists them.')
  })
  if (webFolder && existsSync(webFolder)) {
    app.use(compression())
    app.use('/assets', express.static(join(webFolder, 'assets'), { immutable: true, maxAge: '1y' }))
    app.use(express.static(webFolder, { index: false }))
    app.use((req, res, next) =>
      req.method === 'GET' ? res.set('cache-control', 'no-cache').sendFile(join(webFolder, 'index.html')) : next(),
    )
  }
  app.use(((error, _req, _res, next) => {
    if (isDiskFull(error)) disk.refused()
    next(error)
  }) satisfies ErrorRequestHandler)
  app.use(problemHandler)
  return app
}
