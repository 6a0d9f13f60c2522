import { EventEmitter } from 'node:events'
import type { Db } from '../../db/open'
import { HttpProblem } from '../../problem'
import { latestCells, type CellKey } from './latest-cells'

/** Every write to a course goes through here: one transaction, the version raised, open pages told. */
export function courseWrites(db: Db) {
  const raise = db.prepare<[string], { version: number }>(
    'UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ? RETURNING version',
  )
  const raiseMarks = db.prepare<[string], { version: number }>('UPDATE course SET version = version + 1 WHERE id = ? RETURNING version')
  const issue = db.prepare<[string], { number: number }>('SELECT number FROM issue WHERE course_id = ? AND reopened_at IS NULL')
  const told = new EventEmitter().setMaxListeners(0)
  const latest = latestCells()
  const current = db.prepare<[string], { version: number }>('SELECT version FROM course WHERE id = ?')

  function write<T>(courseId: string, work: () => T, raised = raise): T {
    const [result, version] = db.transaction(() => {
      const done = work()
      return [done, raised.get(courseId)!.version] as const
    })()
    told.emit(courseId, version)
    return result
  }

  function requireOpen(courseId: string): void {
    const confirmed = issue.get(courseId)
    if (confirmed)
      throw new HttpProblem(409, `Issue ${confirmed.number} is confirmed. Reopen the course at Confirm before you change anything.`)
  }

  return {
    write: <T>(courseId: string, work: () => T): T => write(courseId, work),
    /** A write that changes nothing for anybody else, and that a confirmed course refuses: nobody is told. */
    quietOpen<T>(courseId: string, work: () => T): T {
      return db.transaction(() => {
        requireOpen(courseId)
        return work()
      })()
    },
    /**
     * A write of marks or readings, which leaves the plan and the roll as they are; a confirmed course refuses it.
     * @param cellsOf the cells it wrote, where it wrote nothing else
     */
    writeMarks<T>(courseId: string, work: () => T, cellsOf?: (done: T) => readonly CellKey[]): T {
      const done = write(
        courseId,
        () => {
          requireOpen(courseId)
          return work()
        },
        raiseMarks,
      )
      if (cellsOf) latest.add(courseId, current.get(courseId)!.version, cellsOf(done))
      return done
    },
    /** The cells that were written since a version, and whether something was decided; null where more has changed. */
    since: (courseId: string, version: number) => latest.since(courseId, version, current.get(courseId)?.version ?? version),
    /** A write that a confirmed course refuses. */
    writeOpen<T>(courseId: string, work: () => T): T {
      return write(courseId, () => {
        requireOpen(courseId)
        return work()
      })
    },
    /** A decision, which leaves every script and reading as it is; a confirmed course refuses it. */
    writeDecision<T>(courseId: string, work: () => T): T {
      const done = write(courseId, () => {
        requireOpen(courseId)
        return work()
      })
      latest.add(courseId, current.get(courseId)!.version, [], true)
      return done
    },
    onChange(courseId: string, listener: (version: number) => void): () => void {
      told.on(courseId, listener)
      return () => told.off(courseId, listener)
    },
  }
}

export type CourseWrites = ReturnType<typeof courseWrites>
