import { linkedGroups, suggestReaders, type PossibleReader } from '#core/share'
import { routes, type FurtherReadings } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { TableLoader } from '../../kernel/course/load-table'
import { allotmentQueries, readable, type AllottedRow } from '../../kernel/course/allotments'
import { furtherQueries } from './further-queries'

type Wanted = FurtherReadings['wanted'][number]
const keyOf = (w: { assessmentId: string; studentId: string }) => `${w.assessmentId} ${w.studentId}`

/** Readings beyond those shared out: asked for one by one, of a marker or of whoever suits, until they are handed in. */
export function furtherReadingRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites): void {
  const queries = allotmentQueries(db)
  const further = furtherQueries(db)

  /** A reader for each, in the order of what is wanted; those that nobody is left for are left out. */
  function readersOf(courseId: string, wanted: readonly Wanted[]): { assessmentId: string; studentId: string; markerId: string }[] {
    const table = tables.load(courseId)
    const markers = queries.markers(courseId)
    const ids = markers.map((m) => m.id)
    const known = new Set(ids)
    const teacherOf = new Map(queries.taught(courseId).map((s) => [s.id, s.teacherId]))
    const sectionOf = new Map(table.students.map((s) => [s.id, s.sectionId]))
    const given: { assessmentId: string; studentId: string; markerId: string }[] = []
    for (const assessment of table.assessments) {
      const own = wanted.filter((w) => w.assessmentId === assessment.id)
      if (own.length === 0) continue
      const there = new Set(readable(table, assessment.id).map((s) => s.id))
      const now: Pick<AllottedRow, 'studentId' | 'markerId' | 'state'>[] = queries.all(assessment.id)
      const readBy = new Map<string, string[]>()
      for (const a of now) readBy.set(a.studentId, [...(readBy.get(a.studentId) ?? []), a.markerId])
      const groups = linkedGroups(
        ids,
        now.map((a) => ({ scriptId: a.studentId, markerId: a.markerId })),
      )
      const possible = ids.map((id): PossibleReader => ({
        id,
        waiting: now.filter((a) => a.markerId === id && a.state !== 'handed in').length,
        group: groups.findIndex((g) => g.includes(id)),
      }))
      for (const { studentId, markerId } of own) {
        if (!there.has(studentId)) throw new HttpProblem(422, `${assessment.title} has no work of that student to read.`)
        if (markerId === null) continue
        if (!known.has(markerId)) throw new HttpProblem(422, 'There is no such marker in this course.')
        if (readBy.get(studentId)?.includes(markerId)) continue
        given.push({ assessmentId: assessment.id, studentId, markerId })
      }
      const free = own.filter((w) => w.markerId === null)
      const suggested = suggestReaders(
        free.map(({ studentId }) => ({
          scriptId: studentId,
          readBy: readBy.get(studentId) ?? [],
          teacherId: teacherOf.get(sectionOf.get(studentId) ?? '') ?? null,
        })),
        possible,
      )
      given.push(...suggested.map((s) => ({ assessmentId: assessment.id, studentId: s.scriptId, markerId: s.markerId })))
    }
    if (wanted.some((w) => !table.assessments.some((a) => a.id === w.assessmentId)))
      throw new HttpProblem(404, 'There is no such assessment.')
    return given
  }

  handle(routes.furtherReadings, ({ params: { courseId } }) => further.all(courseId))

  handle(routes.askForReadings, ({ params: { courseId }, body: { wanted, because }, me }) => {
    // One marker reads a script once more at most; of nobody by name, it may be wanted several times.
    const once = [...new Map(wanted.map((w, i) => [`${keyOf(w)} ${w.markerId ?? i}`, w])).values()]
    const given = writes.writeMarks(
      courseId,
      () => {
        const readers = readersOf(courseId, once)
        if (readers.length === 0)
          throw new HttpProblem(
            409,
            once.some((w) => w.markerId !== null)
              ? 'That marker reads this already.'
              : 'Everybody reads this already: nobody is left to ask.',
          )
        further.ask(readers, because, me.id)
        return readers
      },
      () => [],
    )
    const asked = new Set(given.map((g) => `${keyOf(g)} ${g.markerId}`))
    const served = new Set(given.map(keyOf))
    tables.patchReadings(courseId, [])
    return {
      asked: further.all(courseId).filter((a) => asked.has(`${keyOf(a)} ${a.markerId}`)),
      nobodyFor: once.filter((w) => !served.has(keyOf(w))).map(({ assessmentId, studentId }) => ({ assessmentId, studentId })),
    }
  })

  handle(routes.takeBackAsked, ({ params: { courseId, assessmentId, studentId, markerId } }) => {
    writes.writeMarks(
      courseId,
      () => {
        const row = further
          .all(courseId)
          .find((a) => a.assessmentId === assessmentId && a.studentId === studentId && a.markerId === markerId)
        if (!row) throw new HttpProblem(404, 'That reading was not asked for (any more).')
        if (row.state !== 'waiting') throw new HttpProblem(409, 'That reading is begun: it is its marker’s now.')
        further.takeBack(assessmentId, studentId, markerId)
      },
      () => [],
    )
    tables.patchReadings(courseId, [])
    return undefined
  })
}
