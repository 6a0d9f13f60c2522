import { markingBy } from '#core/marking'
import { routes, Standard, USUAL_USE, type LibraryFile, type RubricBody } from '#contract'
import { toAssessment, type AssessmentRow } from '../../kernel/course/rows'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { placeEverywhere } from '../../kernel/course/place-everywhere'
import { freeTitles } from '../../kernel/course/titles'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import { sendFile } from '../../kernel/send-file'
import { libraryQueries } from '../../kernel/standards/queries'
import type { WorkerPool } from '../../workers/pool'
import { assessmentCopier } from '../../kernel/course/assessment-copier'
import { recognised } from '../../kernel/standards/library-file'

/** What an assessment in a package is marked by. */
interface MarkedBy {
  standard: Exclude<Standard, { kind: 'outcome' }>
  source: string | null
  /** The entry of the library that says the same. */
  here: string | null
}

/** An assessment alone as a data package, and in again in any course. */
export function packedAssessmentRoutes(handle: Handle, db: Db, plans: PlanLoader, writes: CourseWrites, pool: WorkerPool): void {
  const library = libraryQueries(db)
  const { copy } = assessmentCopier(db)
  const place = placeEverywhere(db)
  const free = freeTitles(db)
  const row = db.prepare<[string], AssessmentRow>('SELECT * FROM assessment WHERE id = ?')

  handle(routes.assessmentPackage, async ({ params: { courseId, assessmentId }, me, res }) => {
    const packed = orProblem(await pool.takeOutAssessment({ file: db.name, courseId, assessmentId }, { personId: me.id }), 404)
    const { head, assessments } = plans.load(courseId).plan
    const title = assessments.find((a) => a.id === assessmentId)?.title ?? 'assessment'
    return sendFile(res, `${title}, ${head.code} ${head.term}`, 'zip', packed)
  })

  /** What a package holds, and what of it is here. */
  const read = async (file: string, personId: string) => {
    const { standard, ...held } = orProblem(await pool.readPackedAssessment(Buffer.from(file, 'base64'), { personId }), 422, {
      field: 'file',
    })
    const found = standard && recognised(standard, library)
    return { ...held, found, markedBy: found && markedByIn(found) }
  }

  handle(routes.tryAssessmentPackage, async ({ params: { courseId }, body: { file }, me }) => {
    const { assessment: a, marks, readings, markedBy } = await read(file, me.id)
    return {
      title: free.assessment(courseId, a.title),
      component: a.component,
      marking: a.marking,
      outOf: a.outOf,
      standard: markedBy && { title: markedBy.standard.title, here: markedBy.here !== null },
      marks,
      readings,
    }
  })

  handle(routes.bringInAssessment, async ({ params: { courseId }, body: { file, componentId }, me }) => {
    const { assessment: a, found, markedBy } = await read(file, me.id)
    return writes.writeOpen(courseId, () => {
      const { plan } = plans.load(courseId)
      if (!plan.components.some((c) => c.id === componentId))
        throw new HttpProblem(422, 'There is no such component.', { field: 'componentId' })
      const standardId = markedBy && found ? (markedBy.here ?? added(markedBy, found, me.id)) : null
      const id = copy(
        { ...a, id: '', standardId, use: USUAL_USE, marking: markedBy ? markingBy(markedBy.standard.kind) : a.marking },
        { courseId, componentId, title: free.assessment(courseId, a.title), counts: a.counts && !plan.hasMarks },
        { standard: true, passMark: true, moderation: true, notes: true },
      )
      place(id, courseId)
      return { assessment: toAssessment(row.get(id)!) }
    })
  })

  /** An entry of the library made of what the package holds, its outcomes first, since criteria name them. */
  function added({ standard, source }: MarkedBy, { outcomes }: LibraryFile, personId: string): string {
    const make = (of: Standard, from: string | null) =>
      library.add({ ...of, title: library.freeTitle(of.title) } as Standard, personId, { source: from })
    if (standard.kind !== 'rubric') return make(standard, source)
    const here = new Map(outcomes.map(({ id, title, known, ...body }) => [id, known ?? make({ kind: 'outcome', title, body }, id)]))
    const criteria = standard.body.criteria.map((c) => ({ ...c, outcomeIds: c.outcomeIds?.flatMap((id) => here.get(id) ?? []) }))
    return make({ ...standard, body: { ...standard.body, criteria } }, source)
  }
}

/** The one entry of a package that an assessment is marked by. @throws HttpProblem where it is none that could be of ours */
function markedByIn({ rubrics: [rubric], others: [other] }: LibraryFile): MarkedBy | null {
  if (other) return { standard: other.standard, source: other.source, here: other.known?.same ? other.known.id : null }
  if (!rubric) return null
  const { title, source, known, ...rest } = rubric
  const read = Standard.safeParse({ kind: 'rubric', title, body: rest satisfies RubricBody })
  if (!read.success)
    throw new HttpProblem(422, `The rubric in the package cannot be read: ${read.error.issues[0]!.message}`, { field: 'file' })
  if (read.data.kind !== 'rubric') return null
  return { standard: read.data, source, here: known?.same ? known.id : null }
}
