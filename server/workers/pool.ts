import type { AssessmentRead, AssessmentToPack } from './packed-assessment'
import { join } from 'node:path'
import { MessageChannel } from 'node:worker_threads'
import { Piscina } from 'piscina'
import type { MarksFile } from '#core/exchange/marks-file'
import type { MarksRead } from '#core/exchange/marks-who'
import type { PersonLine } from '#core/exchange/people-lines'
import type { RollFile, RollMatch } from '#core/exchange/roll-file'
import type { IssueDifference } from '#core/issues'
import type { Erased, JudgedInColumns, MakingStep, TriedPackage, SharesOfCourse } from '#contract'
import type { CourseToTake } from '../areas/keeping/package/take-out'
import type { BackUp } from '../areas/keeping/back-up'
import type { LibraryFileRead } from '../kernel/standards/library-file'
import { HttpProblem } from '../kernel/problem'
import type { BoxList } from './box-list'
import type { OfAssessment } from './judged'
import type { LevelsOf } from './standings'
import type { DeliveredFile } from './delivery'
import type { RollTask } from './files'
import type { IssueParts } from '../kernel/course/issued-results'
import type { IssueFileKind, IssueMade, issueRows, ToFreeze } from './issue'
import type { RosterToWrite, SheetToWrite } from './marks-out'
import { TOLD_ALL } from './telling'

export interface WorkerSource {
  filename: string
  execArgv?: string[]
}

/** Where the workers are when the server runs from its sources. */
const FROM_SOURCE: WorkerSource = { filename: join(process.cwd(), 'server/workers/files.ts'), execArgv: ['--import', 'tsx'] }

/**
 * A thread is ended at any moment: who waited gave up. What it would `require` just then is linked without a thought of that in
 * Node 20, and ends the whole process; `import` is not.
 */
const BY_IMPORT = '--no-experimental-require-module'

/** A file that takes longer than this, or more room than this, is given up. */
const LONGEST_MS = 20_000
/** From sources a thread is long in loading, and that is no fault of the file. */
const LONGEST_FROM_SOURCE_MS = 120_000
const MOST_MEMORY_MB = 600
/** What is written of a whole course is ours, and grows with it. */
const LONGEST_OUT_MS = 120_000
const LONGEST_BACKUP_MS = 30 * 60_000
/** A package may take long, by its size: no small one does, unless it was made to. */
const packageTime = (bytes: number) => Math.min(LONGEST_BACKUP_MS, 60_000 + Math.ceil(bytes / 2 ** 20) * 15_000)
const THREADS = 3
/** Threads that stand ready from the start, so that nobody waits for one to load; none where it would be loaded from sources. */
const READY = 2

const TOO_MUCH = 'The file takes too long or too much room to read: bring in only the sheet that is needed, in parts.'
const PACKAGE_TOO_MUCH =
  'The package takes too long or too much memory to check: it was not made by Level Table, or is damaged. Export the course again.'
const ONE_AT_A_TIME = 'A file of yours is still being read: wait for it, then bring in the next.'

type IssueRow = ReturnType<typeof issueRows>[number]

interface Asks {
  /** In milliseconds, where it may take longer than a file that somebody waits for. */
  longest?: number
  /** What is said where it takes too long or too much room. */
  tooMuch?: string
  /** Whose file it is: each person has one read at a time, so that nobody's holds up all others'. */
  personId: string
  signal?: AbortSignal
}

/**
 * Worker threads for what would hold up the server. Each file has its time and its room; one that grows without end takes down its
 * thread alone, and whoever waits for it is told.
 * @param longest in milliseconds
 */
export function workerPool(source: WorkerSource = FROM_SOURCE, longest = source === FROM_SOURCE ? LONGEST_FROM_SOURCE_MS : LONGEST_MS) {
  let pool: Piscina | null = null
  const start = () =>
    (pool ??= new Piscina({
      filename: source.filename,
      execArgv: [BY_IMPORT, ...(source.execArgv ?? [])],
      // The one that a thread loads at its start.
      name: 'roll',
      minThreads: source === FROM_SOURCE ? 0 : READY,
      maxThreads: THREADS,
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB, maxYoungGenerationSizeMb: 64 },
    }))
  if (source !== FROM_SOURCE) start()
  const reading = new Map<string, Promise<unknown>>()
  const waiting = new Set<string>()

  /**
   * Where a file of the same person is being read it waits for that, which is perhaps only being given up.
   * @returns a sentence where the file cannot be read, for whatever reason
   * @throws AbortError once the signal is given; HttpProblem 429 where one of theirs waits already
   */
  async function run<T>(
    name: string,
    task: object,
    { personId, signal, longest: own = longest, tooMuch = TOO_MUCH }: Asks,
    transferList: MessagePort[] = [],
  ): Promise<T | string> {
    if (reading.has(personId)) {
      if (waiting.has(personId)) throw new HttpProblem(429, ONE_AT_A_TIME)
      waiting.add(personId)
      try {
        while (reading.has(personId)) await reading.get(personId)
        signal?.throwIfAborted()
      } finally {
        waiting.delete(personId)
      }
    }
    let ended: () => void = () => undefined
    reading.set(personId, new Promise<void>((done) => (ended = done)))
    const enough = AbortSignal.timeout(own)
    try {
      return (await start().run(task, {
        name,
        signal: signal ? AbortSignal.any([signal, enough]) : enough,
        transferList: transferList as never[],
      })) as T | string
    } catch (e) {
      // Given up for its time, or ended for its room; a fault of ours is neither.
      if (enough.aborted || (e as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') return tooMuch
      throw e
    } finally {
      reading.delete(personId)
      ended()
    }
  }

  /** The same, told through a port what is being done. */
  async function runTold<T, Doing>(name: string, task: object, told: (doing: Doing) => void, asks: Asks): Promise<T | string> {
    const { port1, port2 } = new MessageChannel()
    const all = new Promise<void>((heard) => port1.on('message', (m: Doing | typeof TOLD_ALL) => (m === TOLD_ALL ? heard() : told(m))))
    try {
      const done = await run<T>(name, { ...task, port: port2 }, asks, [port2 as unknown as MessagePort])
      // All that was told is heard before it is done; who gave up hears nothing more.
      if (typeof done !== 'string') await all
      return done
    } finally {
      port1.close()
    }
  }

  return {
    readRoll: (bytes: Uint8Array, match: RollMatch, told: (doing: string) => void, asks: Asks) =>
      runTold<RollFile, string>('roll', { bytes, match } satisfies Omit<RollTask, 'port'>, told, asks),
    /** What a file holds for the library. */
    readLibraryFile: (bytes: Uint8Array, asks: Asks) => run<LibraryFileRead>('library', { bytes }, asks),
    /** An assessment as a data package. */
    takeOutAssessment: (task: AssessmentToPack, asks: Asks) => run<Uint8Array>('takeOutAssessment', task, asks),
    /** What a data package of an assessment holds. */
    readPackedAssessment: (bytes: Uint8Array, asks: Asks) => run<AssessmentRead>('packedAssessment', { bytes }, asks),
    /** The list of the submission box. */
    readBoxList: (path: string, asks: Asks) => run<BoxList>('boxList', { path }, asks),
    /** A file of the submission box. */
    readDelivery: (path: string, fileName: string, asks: Asks) => run<DeliveredFile>('delivery', { path, fileName }, asks),
    /** The handed-in readings of an assessment, criterion by criterion. */
    judgedColumns: (task: OfAssessment, asks: Asks) => run<JudgedInColumns>('judgedColumns', task, asks),
    /** How many of a course stand at each level of its outcomes. */
    sharesOfCourse: (task: { file: string; courseId: string }, asks: Asks) => run<SharesOfCourse>('sharesOfCourse', task, asks),
    standingLevels: (task: { file: string; courseId: string; outcomeIds: readonly string[] }, asks: Asks) =>
      run<LevelsOf>('standingLevels', task, asks),
    /** Standings of a course as OneRoster results. */
    standingsRoster: (task: { file: string; courseId: string; at: string }, asks: Asks) => run<Uint8Array>('standingsRoster', task, asks),
    /** A file that a student hands in. */
    takeIn: (base64: string, asks: Asks) => run<DeliveredFile>('handedIn', { base64 }, asks),
    /** A backup of a database, checked. */
    backUp: (file: string, into: string) => run<BackUp>('backup', { file, into }, { personId: 'backup', longest: LONGEST_BACKUP_MS }),
    countNames: (task: { file: string; courseId: string }, asks: Asks) => run<Erased>('countNames', task, asks),
    /** Erases the names and works of a course. */
    makeNameless: (task: { file: string; courseId: string; at: string; reasons: readonly string[] }, asks: Asks) =>
      run<Erased>('makeNameless', task, { ...asks, longest: LONGEST_BACKUP_MS }),
    /** The database's file written anew; nobody else can write meanwhile. */
    writeAnew: (file: string) => run<undefined>('writeAnew', { file }, { personId: 'write anew', longest: LONGEST_BACKUP_MS }),
    /** A course as a data package, in a file of its own. */
    takeOutCourse: (task: CourseToTake, asks: Asks) =>
      run<Record<string, number>>('takeOutCourse', task, { ...asks, longest: LONGEST_BACKUP_MS }),
    /** What a data package would do here; changes nothing. */
    tryPackage: (task: { file: string; packed: string; bytes: number }, asks: Asks) =>
      run<TriedPackage>('triedPackage', task, { ...asks, longest: packageTime(task.bytes), tooMuch: PACKAGE_TOO_MUCH }),
    /** Brings a course in from a data package. */
    bringInPackage: (task: { file: string; packed: string; bytes: number }, asks: Asks) =>
      run<{ courseId: string }>('broughtPackage', task, { ...asks, longest: 2 * packageTime(task.bytes), tooMuch: PACKAGE_TOO_MUCH }),
    /** What the next issue of a course would be. */
    makeIssue: (task: ToFreeze, told: (step: MakingStep) => void, asks: Asks) =>
      runTold<IssueMade, MakingStep>('issueMade', task, told, asks),
    /** In what two issues differ, or one and what would be frozen now. */
    compareIssues: (task: { file: string; courseId: string; from: number; to: number | ToFreeze }, asks: Asks) =>
      run<IssueDifference>('issuesCompared', task, asks),
    /** An issue as a file. */
    issueFile: (task: { file: string; courseId: string; number: number; as: IssueFileKind }, asks: Asks) =>
      run<Uint8Array>('issueFile', task, asks),
    /** An issue by student. */
    issueParts: (task: { file: string; courseId: string; number: number }, asks: Asks) => run<IssueParts>('issueParts', task, asks),
    /** What is handed over of each student of an issue. */
    issueRows: (task: { file: string; courseId: string; number: number }, asks: Asks) => run<IssueRow[]>('issueRows', task, asks),
    /** An issue as OneRoster results, zipped. */
    oneRosterFile: (task: { file: string; courseId: string; number: number }, asks: Asks) => run<Uint8Array>('oneRosterFile', task, asks),
    /** An issue as a records office takes it in. */
    recordsFile: (task: { file: string; courseId: string; number: number }, asks: Asks) => run<Uint8Array>('officeFile', task, asks),
    /** The people that a list names. */
    readPeople: (text: string, asks: Asks) => run<PersonLine[]>('people', { text }, asks),
    /** A mark sheet as a file. */
    sheetFile: (task: SheetToWrite, asks: Asks) => run<Uint8Array>('sheetFile', task, { longest: LONGEST_OUT_MS, ...asks }),
    /** The same as OneRoster results, zipped. */
    rosterFile: (task: RosterToWrite, asks: Asks) => run<Uint8Array>('rosterFile', task, { longest: LONGEST_OUT_MS, ...asks }),
    /** The marks in a file, or in a text that was pasted. */
    readMarks: (given: ({ bytes: Uint8Array } | { text: string }) & { match?: MarksRead }, asks: Asks) =>
      run<MarksFile>('marks', given, asks),
    stop: async () => {
      await pool?.destroy()
      pool = null
    },
  }
}

export type WorkerPool = ReturnType<typeof workerPool>
