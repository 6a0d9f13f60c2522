import { EventEmitter } from 'node:events'
import type { MakingStep } from '#contract'
import type { Db } from '../db/open'
import { HttpProblem } from '../problem'
import { latestCells, type CellKey } from './latest-cells'
import { writing } from '../db/transactions'

interface Gathered {
  courseId: string
  work: () => unknown
  cellsOf: (done: unknown) => readonly CellKey[]
  taken: (all: readonly unknown[]) => void
  done: (result: unknown) => void
  failed: (error: unknown) => void
}

interface Done {
  result: unknown
  version: number
}

/**
 * Every write to a course goes through here: one transaction, the version raised, open pages told.
 * @param besides told of a write that left every student, script and reading as they were, before anybody else is
 */
export function courseWrites(db: Db, besides: (courseId: string) => void = () => undefined) {
  const raise = db.prepare<[string], { version: number }>(
    'UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ? RETURNING version',
  )
  const raiseMarks = db.prepare<[string], { version: number }>('UPDATE course SET version = version + 1 WHERE id = ? RETURNING version')
  const issue = db.prepare<[string], { number: number }>('SELECT number FROM issue WHERE course_id = ? AND reopened_at IS NULL')
  const told = new EventEmitter().setMaxListeners(0)
  const any = new EventEmitter()
  const making = new EventEmitter().setMaxListeners(0)
  const latest = latestCells()
  const current = db.prepare<[string], { version: number }>('SELECT version FROM course WHERE id = ?')

  function tell(courseId: string, version: number): void {
    told.emit(courseId, version)
    any.emit('changed', courseId)
  }

  function write<T>(courseId: string, work: () => T, { raised = raise, beside = false } = {}): T {
    const [result, version] = writing(db, () => {
      const done = work()
      return [done, raised.get(courseId)!.version] as const
    })
    if (beside) {
      latest.add(courseId, version, [], true)
      besides(courseId)
    }
    tell(courseId, version)
    return result
  }

  function requireOpen(courseId: string): void {
    const confirmed = issue.get(courseId)
    if (confirmed)
      throw new HttpProblem(409, `Issue ${confirmed.number} is confirmed. Reopen the course at Confirm before you change anything.`)
  }

  const ifOpen =
    <T>(courseId: string, work: () => T) =>
    (): T => {
      requireOpen(courseId)
      return work()
    }

  /** Writes of marks that wait for the turn of the loop in which they are all made durable. */
  let gathered: Gathered[] = []

  function commitGathered(): void {
    const batch = gathered
    gathered = []
    const outcomes: { write: Gathered; done?: Done; error?: unknown }[] = []
    try {
      writing(db, () => {
        for (const of of batch)
          try {
            // In a savepoint of its own: what is refused takes nothing of the others with it.
            const result = writing(db, () => {
              requireOpen(of.courseId)
              return of.work()
            })
            outcomes.push({ write: of, done: { result, version: raiseMarks.get(of.courseId)!.version } })
          } catch (error) {
            outcomes.push({ write: of, error })
          }
      })
    } catch (error) {
      for (const { failed } of batch) failed(error)
      return
    }
    for (const { write, done } of outcomes) if (done) latest.add(write.courseId, done.version, write.cellsOf(done.result))
    for (const courseId of new Set(outcomes.flatMap(({ write, done }) => (done ? write.courseId : [])))) {
      const own = outcomes.filter(({ write, done }) => done && write.courseId === courseId)
      const taking = own[0]!.write.taken
      taking(own.map(({ done }) => done!.result))
      tell(courseId, own.at(-1)!.done!.version)
    }
    for (const { write, done, error } of outcomes)
      if (done) write.done(done.result)
      else write.failed(error)
  }

  return {
    /** @throws HttpProblem 409 where the course is confirmed */
    requireOpen,
    /**
     * A write of marks like `writeMarks`, gathered with those that come in the same turn: all are made durable at once, each is refused
     * on its own, and each is answered once it is on disk.
     * @param taken told once for all that a course was written in that turn
     */
    writeMarksTogether<T>(
      courseId: string,
      work: () => T,
      cellsOf: (done: T) => readonly CellKey[],
      taken: (all: readonly T[]) => void,
    ): Promise<T> {
      return new Promise<T>((done, failed) => {
        if (gathered.length === 0) setImmediate(commitGathered)
        gathered.push({ courseId, work, cellsOf, taken, done, failed } as unknown as Gathered)
      })
    },
    write: <T>(courseId: string, work: () => T): T => write(courseId, work),
    /** A write that changes nothing for anybody else, and that a confirmed course refuses: nobody is told. */
    quietOpen<T>(courseId: string, work: () => T): T {
      return writing(db, () => {
        requireOpen(courseId)
        return work()
      })
    },
    /**
     * A write of marks or readings, which leaves the plan and the roll as they are; a confirmed course refuses it.
     * @param cellsOf the cells it wrote, where it wrote nothing else
     */
    writeMarks<T>(courseId: string, work: () => T, cellsOf?: (done: T) => readonly CellKey[]): T {
      const done = write(courseId, ifOpen(courseId, work), { raised: raiseMarks })
      if (cellsOf) latest.add(courseId, current.get(courseId)!.version, cellsOf(done))
      return done
    },
    /** The cells that were written since a version, and whether something was decided; null where more has changed. */
    since: (courseId: string, version: number) => latest.since(courseId, version, current.get(courseId)?.version ?? version),
    /** A write that a confirmed course refuses. */
    writeOpen: <T>(courseId: string, work: () => T): T => write(courseId, ifOpen(courseId, work)),
    /** A write that leaves every student, script and reading as they are, a signature for one: these need not be read or sent again. */
    writeBeside: <T>(courseId: string, work: () => T): T => write(courseId, work, { beside: true }),
    /** The same, which a confirmed course refuses: a decision, for one. */
    writeBesideOpen: <T>(courseId: string, work: () => T): T => write(courseId, ifOpen(courseId, work), { beside: true }),
    /** Tells open pages how far an issue is that is being made. */
    making: (courseId: string, step: MakingStep): void => void making.emit(courseId, step),
    onMaking(courseId: string, listener: (step: MakingStep) => void): () => void {
      making.on(courseId, listener)
      return () => making.off(courseId, listener)
    },
    /** Told of every course that is written to. */
    onAnyChange: (listener: (courseId: string) => void): void => void any.on('changed', listener),
    onChange(courseId: string, listener: (version: number) => void): () => void {
      told.on(courseId, listener)
      return () => told.off(courseId, listener)
    },
  }
}

export type CourseWrites = ReturnType<typeof courseWrites>
