import { randomUUID } from 'node:crypto'
import {
  dueFor,
  isReleased,
  placeDelivery,
  placementFor,
  whyNotHandedIn,
  whyTooMuch,
  type Expected,
  type Placing,
  type Stay,
} from '#core/roll'
import { scriptIdOf } from '#core/trial'
import { routes, type Collected, type DeliveryRow, type Receipt } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Clock } from '../../kernel/clock'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { sendAs } from '../../kernel/send-file'
import { studentViews } from '../../kernel/student-view'
import { HttpProblem } from '../../kernel/problem'
import type { StandInFaults } from '../../standins/faults'
import type { SubmissionBox } from '../../standins/submission-box'
import type { WorkerPool } from '../../workers/pool'
import { appliesTo } from '../../kernel/course/applies-to'
import { issuesOf } from '../../kernel/course/issues'
import type { CourseWrites } from '../../kernel/course/course-writes'
import { placedOf } from '../../kernel/course/placed-of'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { deliveryQueries, type NewDelivery, type Sorted } from './queries'

/** Students' work as it comes through the submission box: placed as attempts, or waiting to be sorted by hand. */
export function deliveryRoutes(
  handle: Handle,
  db: Db,
  plans: PlanLoader,
  writes: CourseWrites,
  box: SubmissionBox,
  faults: StandInFaults,
  pool: WorkerPool,
  clock: Clock,
): void {
  const queries = deliveryQueries(db)
  const views = studentViews(db)
  const issues = issuesOf(db)
  const students = db.prepare<[string], { id: string; candidate: string; sectionId: string }>(
    `SELECT s.id, s.candidate, e.section_id AS sectionId FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.course_id = ?`,
  )
  const staysOf = db.prepare<[string], Stay>(
    'SELECT section_id AS sectionId, from_day AS "from", to_day AS "to" FROM enrolment WHERE student_id = ? ORDER BY from_day',
  )

  /** What a course expects of a student and an assessment. */
  function expecting(courseId: string) {
    const { plan } = plans.load(courseId)
    const all = students.all(courseId)
    const byId = new Map(all.map((s) => [s.id, s]))
    const byCandidate = new Map(all.map((s) => [s.candidate.toLowerCase(), s]))
    const byTitle = new Map(plan.assessments.map((a) => [a.title.toLowerCase(), a]))
    const applies = appliesTo(plan, (id) => staysOf.all(id))
    const of = (studentId: string, assessmentId: string): Expected | string => {
      const student = byId.get(studentId)
      const at = plan.assessments.findIndex((a) => a.id === assessmentId)
      const assessment = plan.assessments[at]
      if (!student || !assessment) return 'There is no such student or assessment in this course.'
      const placed = placedOf(plan, assessmentId)
      const { status, hashes, attempts } = queries.known(studentId, assessmentId)
      const due = dueFor(placed, staysOf.all(studentId), student.sectionId)
      return { studentId, assessmentId, title: assessment.title, applies: applies(student, assessmentId), due, status, hashes, attempts }
    }
    return {
      of,
      named(candidate: string, title: string): Expected | string {
        const student = byCandidate.get(candidate.toLowerCase())
        const assessment = byTitle.get(title.toLowerCase())
        if (!student) return `Nobody on the roll has candidate number ${candidate || '(none given)'}.`
        if (!assessment) return `This course has no assessment “${title}”.`
        return of(student.id, assessment.id)
      },
    }
  }

  function settle(placing: Placing, cameAt: string, me: string, byHand: boolean): Sorted {
    const by = byHand ? me : null
    if (placing.kind !== 'place') return { state: placing.kind === 'wait' ? 'waiting' : 'set aside', why: placing.why, by }
    const { studentId, assessmentId, attempt, daysLate } = placing
    const scriptId = queries.known(studentId, assessmentId).scriptId ?? scriptIdOf(assessmentId, studentId)
    const why = queries.arrived(scriptId, { studentId, assessmentId, cameAt, daysLate }, me)
    return { state: 'placed', scriptId, attempt, why, by }
  }

  handle(routes.deliveries, async ({ params: { courseId } }) => {
    const list = queries.list(courseId)
    const taken = queries.taken(courseId)
    const reached = faults.fails(courseId, 'submission box') ? null : (await box.list(courseId)).rows
    const inBox = reached && reached.filter((r) => !taken.has(`${r.fileName} ${r.cameAt}`)).length
    return { list, counts: queries.counts(courseId), inBox }
  })

  handle(routes.collect, async ({ params: { courseId }, me }): Promise<Collected> => {
    const listed = await box.list(courseId)
    const taken = queries.taken(courseId)
    const done: Collected = { placed: 0, waiting: 0, setAside: 0, faults: listed.faults }
    const fresh = listed.rows.filter((r) => !taken.has(`${r.fileName} ${r.cameAt}`)).sort((a, b) => (a.cameAt < b.cameAt ? -1 : 1))
    // One file after the other, read beside and not inside of what is written: each is there whole once it is placed.
    for (const row of fresh) {
      const file = await pool.readDelivery(box.pathOf(courseId, row.fileName), row.fileName, { personId: me.id })
      if (typeof file === 'string') {
        done.faults.push(file)
        continue
      }
      const content = Buffer.from(file.content)
      const delivery: NewDelivery = { ...row, id: randomUUID(), courseId, content, kind: file.kind, hash: file.hash }
      writes.writeOpen(courseId, () => {
        // Somebody else may have collected it meanwhile.
        if (queries.taken(courseId).has(`${row.fileName} ${row.cameAt}`)) return
        const expected = expecting(courseId).named(row.candidate, row.assessment)
        const placing = placeDelivery({ ...delivery, day: clock.dayOf(row.cameAt) }, expected)
        const sorted = settle(placing, row.cameAt, me.id, false)
        queries.insert(delivery, sorted)
        done[sorted.state === 'set aside' ? 'setAside' : sorted.state]++
      })
    }
    return done
  })

  const student = db.prepare<[string, string], { id: string; candidate: string; sectionId: string }>(
    `SELECT s.id, s.candidate, e.section_id AS sectionId FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     WHERE s.course_id = ? AND s.person_id = ?`,
  )
  handle(routes.handIn, async ({ params: { courseId, assessmentId }, body, me }): Promise<Receipt> => {
    const own = student.get(courseId, me.id)
    const { plan } = plans.load(courseId)
    const at = plan.assessments.findIndex((a) => a.id === assessmentId)
    if (!own || at < 0) throw new HttpProblem(404, 'There is no such work of yours.')
    const { title } = plan.assessments[at]!
    const file = orProblem(await pool.takeIn(body.file, { personId: me.id }), 422, { field: 'file' })
    if (file.kind === 'other')
      throw new HttpProblem(422, `“${body.fileName}” is neither text nor PDF: save it as a PDF and hand that in.`, { field: 'file' })
    const cameAt = clock.now()
    const content = Buffer.from(file.content)
    const delivery: NewDelivery = {
      fileName: body.fileName,
      kind: file.kind,
      hash: file.hash,
      id: randomUUID(),
      courseId,
      content,
      candidate: own.candidate,
      assessment: title,
      cameAt,
    }
    return writes.write(courseId, () => {
      const expected = expecting(courseId).of(own.id, assessmentId)
      if (typeof expected === 'string') throw new HttpProblem(404, expected)
      const placed = placedOf(plan, assessmentId)
      const placement = placementFor(placed, staysOf.all(own.id), own.sectionId)
      const inForce = issues.inForce(courseId) !== null
      const isOut = !!placement && isReleased(placement.release, { today: clock.today(), due: placement.due, confirmed: inForce })
      const kept = queries.kept(own.id, assessmentId)
      const why = whyNotHandedIn({
        ...expected,
        wanted: views.of(courseId).handIn.includes(assessmentId),
        ...kept,
        released: isOut && queries.isMarked(own.id, assessmentId),
        confirmed: plan.head.confirmedIssue !== null,
      })
      if (why !== null) throw new HttpProblem(409, why)
      const tooMuch = whyTooMuch(kept, { bytes: content.length })
      if (tooMuch !== null) throw new HttpProblem(413, tooMuch, { field: 'file' })
      const placing = placeDelivery({ ...delivery, day: clock.dayOf(cameAt) }, expected)
      if (placing.kind !== 'place')
        throw new HttpProblem(
          409,
          placing.kind === 'set aside' ? 'This is the file that you handed in last: it counts already.' : placing.why,
          {
            field: 'file',
          },
        )
      queries.insert(delivery, settle(placing, cameAt, me.id, true))
      return { fileName: body.fileName, at: cameAt, daysLate: placing.daysLate, attempt: placing.attempt, hash: file.hash }
    })
  })

  const oneOf = (courseId: string, id: string): DeliveryRow => {
    const row = queries.one(courseId, id)
    if (!row) throw new HttpProblem(404, 'Nothing of that kind came in.')
    return row
  }

  handle(routes.sortDelivery, ({ params: { courseId, deliveryId }, body, me }) =>
    writes.writeOpen(courseId, () => {
      const row = oneOf(courseId, deliveryId)
      if (row.state === 'placed' && queries.isBuiltOn(row.id))
        throw new HttpProblem(409, 'It has been read, or a later attempt came: it stays where it is.')
      if (row.state === 'placed' || body.to === 'waiting') queries.takeOff(row.id, 'Put back to be sorted.', me.id)
      if (body.to === 'waiting') return oneOf(courseId, deliveryId)
      if (body.to === 'set aside') queries.sort(row.id, { state: 'set aside', why: body.why, by: me.id })
      else {
        const { hash } = queries.meta(row.id)
        const expected = expecting(courseId).of(body.studentId, body.assessmentId)
        const placing = placeDelivery({ ...row, day: clock.dayOf(row.cameAt), hash }, expected)
        if (placing.kind !== 'place') throw new HttpProblem(422, placing.why, { field: 'assessmentId' })
        queries.sort(row.id, settle(placing, row.cameAt, me.id, true))
      }
      return oneOf(courseId, deliveryId)
    }),
  )

  handle(routes.deliveryFile, ({ params: { courseId, deliveryId }, res }) => {
    const file = queries.content(courseId, deliveryId)
    if (!file) throw new HttpProblem(404, 'Nothing of that kind came in.')
    const type = file.kind === 'pdf' ? 'application/pdf' : 'application/octet-stream'
    return sendAs(res, file.fileName, type, file.content)
  })
}
