import { daysLateOn, isReleased, placementFor, releasedSince, shiftDay, whyNotHandedIn, type Day, type Stay } from '#core/roll'
import type { Status } from '#core/grades'
import { criteriaOf } from '#core/scales'
import { standingOfStudent } from '#core/trial'
import type { Assessment, OwnWork, StandardInUse, StandardUse } from '#contract'
import { ownSettings } from '../../kernel/access/own-settings'
import type { Clock } from '../../kernel/clock'
import { seenMarks } from '../../kernel/course/seen-marks'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { placedOf } from '../../kernel/course/placed-of'
import type { WorkedOutMarks } from '../../kernel/course/worked-out'
import type { Db } from '../../kernel/db/open'
import { HttpProblem } from '../../kernel/problem'
import { tuningQueries, type ExemplarRow } from '../../kernel/standards/exemplars'
import { asUsed, standardsOf } from '../../kernel/standards/judge'
import { libraryQueries } from '../../kernel/standards/queries'
import { studentViews } from '../../kernel/student-view'
import type { IssuedResults } from '../../kernel/course/issued-results'
import { levelsFor, type Levels } from './levels'
import { ownCourse } from './own-course'
import { ownResults } from './own-result'
import { ownStandings } from './own-standings'
import { questionQueries } from './question-queries'
import { remarksFor } from './remarks'

type Work = OwnWork['work'][number]

/** What a student sees: their own work, and of it only what is released. */
export function ownWork(db: Db, plans: PlanLoader, worked: WorkedOutMarks, issued: IssuedResults, clock: Clock) {
  const inLibrary = standardsOf(libraryQueries(db))
  const tuning = tuningQueries(db)
  const remarksOf = remarksFor(db)
  const standingsOf = ownStandings(db)
  const levelsOf = levelsFor(db)
  const settings = ownSettings(db)
  const resultsOf = ownResults(db, issued, clock)
  const questions = questionQueries(db)
  const views = studentViews(db)
  const seenIn = seenMarks(db, issued)
  const own = db.prepare<[string, string], { id: string }>('SELECT id FROM student WHERE course_id = ? AND person_id = ?')
  const letOut = db
    .prepare<[string, string], string | null>('SELECT let_out_at FROM placement WHERE assessment_id = ? AND section_id = ?')
    .pluck()
  const attempts = db.prepare<[string, string], { fileName: string; at: string; hash: string; bytes: number }>(
    `SELECT d.file_name AS fileName, d.came_at AS at, d.hash, length(d.content) AS bytes FROM delivery d JOIN script s ON s.id = d.script_id
     WHERE s.assessment_id = ? AND s.student_id = ? AND d.state = 'placed' ORDER BY d.attempt`,
  )
  const codeName = db.prepare<[string], string>('SELECT name FROM code_name WHERE student_id = ?').pluck()
  const statusOf = db.prepare<[string, string], Status>('SELECT status FROM script WHERE assessment_id = ? AND student_id = ?').pluck()

  function shownLevels(levels: Levels | null, use: StandardUse): Work['levels'] {
    const standard = levels && inLibrary(levels.standardId)
    if (!standard) return null
    const { picks, judgement, agreed } = levels
    return { standard: forStudents(standard, use), judged: { picks, judgement, mark: null }, agreed }
  }
  // Notes for markers, and comments kept ready for them, are not for students.
  const standardOf = (a: Assessment): StandardInUse | null => {
    const standard = inLibrary(a.standardId)
    return standard && forStudents(standard, a.use)
  }

  /** @throws HttpProblem 404 for who is not on the roll */
  return async (courseId: string, personId: string): Promise<OwnWork & { studentId: string }> => {
    const { plan } = plans.load(courseId)
    const { table, workings, standing, applies } = await worked(courseId)
    const self = own.get(courseId, personId)
    const student = self && table.students.find((s) => s.id === self.id)
    if (!student) throw new HttpProblem(404, 'You are not on the roll of this course.')
    const studentId = student.id
    const live = new Map(standingOfStudent(workings, standing, studentId).map((s) => [s.assessmentId, s]))
    const today = clock.today()
    const { issue, of: seenOf } = seenIn(courseId)
    const seen = await seenOf(studentId, live, table.assessments)
    const confirmedOn = issue && clock.dayOf(issue.signatures.at(-1)?.at ?? issue.at)
    const view = views.of(courseId)
    const releasedIds = new Set<string>()
    const stays: Stay[] = table.stays[student.id] ?? []

    const work = table.assessments.flatMap((a): Work[] => {
      if (!applies(student.id, a.id)) return []
      const placed = placedOf(plan, a.id)
      const placement = placementFor(placed, stays, student.sectionId)
      const due = placement?.due ?? null
      const release = placement?.release
      const released = !!release && isReleased(release, { today, due, confirmed: issue !== null })
      if (released) releasedIds.add(a.id)
      const mark = released ? seen.get(a.id) : undefined
      const stands = released ? live.get(a.id) : undefined
      // Remarks are those of the mark that is seen; what is judged anew meanwhile waits for the next issue.
      const remarked = stands && a.use.remarks && mark !== undefined && mark.mark !== null && mark.mark === stands.mark ? stands : null
      const levels = remarked ? shownLevels(levelsOf(remarked.scriptId, remarked.plain, a.standardId), a.use) : null

      function askingOf(): Work['asking'] {
        if (!stands || !mark || mark.mark === null) return null
        const asked = questions.ofScript(stands.scriptId)
        if (view.askDays === null && asked.length === 0) return null
        const dayOf = (moment: string | null | undefined): Day | null => (moment ? clock.dayOf(moment) : null)
        const since = releasedSince(release!, {
          due,
          confirmedOn,
          letOutOn: dayOf(letOut.get(a.id, placement!.sectionId)),
          markedOn: dayOf(questions.markedAt(stands.scriptId)),
        })
        const until = view.askDays === null ? null : shiftDay(since ?? today, view.askDays)
        const standard = levels?.standard ?? (a.use.remarks || a.use.studentsBefore ? standardOf(a) : null)
        return {
          until: until !== null && until >= today ? until : null,
          criteria: criteriaOf(standard).map(({ id, title }) => ({ id, title })),
          questions: asked,
        }
      }
      function handInOf(): Work['handIn'] {
        const wanted = view.handIn.includes(a.id)
        const came = attempts.all(a.id, studentId)
        if (!wanted && came.length === 0) return null
        const status = statusOf.get(a.id, studentId) ?? null
        const why = whyNotHandedIn({
          wanted,
          applies: true,
          status,
          times: came.length,
          bytes: came.reduce((sum, x) => sum + x.bytes, 0),
          released: stands !== undefined && stands.mark !== null,
          confirmed: plan.head.confirmedIssue !== null,
        })
        return {
          open: why === null,
          why,
          attempts: came.map(({ bytes: _, ...x }) => ({ ...x, daysLate: daysLateOn(due, clock.dayOf(x.at)) })),
        }
      }
      return [
        {
          id: a.id,
          assessment: a.title,
          due,
          released,
          mark: mark?.mark ?? null,
          outOf: released ? a.outOf : null,
          status: mark?.status ?? null,
          remarks: remarked ? remarksOf(remarked.scriptId, remarked.plain) : [],
          levels,
          standard: a.use.studentsBefore ? standardOf(a) : null,
          exemplars: tuning.all(a.id).flatMap((x) => shown(x, a.outOf)),
          asking: askingOf(),
          handIn: handInOf(),
        },
      ]
    })
    const standings = standingsOf(plan, workings, student.id, releasedIds)
    const results = await resultsOf(courseId, student.id, student.sectionId, settings.of(personId).decimal)
    return {
      studentId,
      // Issues do not keep standings, so none are shown while a course is reopened: its readings may not be confirmed.
      standings: issue?.reopened && standings.length > 0 ? null : standings,
      name: student.name,
      candidate: student.candidate,
      section: plan.sections.find((s) => s.id === student.sectionId)?.name ?? '',
      codeName: codeName.get(student.id) ?? null,
      work,
      course: view.soFar && !results.result ? ownCourse(plan, workings, standing, student.id, releasedIds, seen) : null,
      ...results,
    }
  }
}

function forStudents(standard: StandardInUse, use: StandardUse): StandardInUse {
  if (standard.kind === 'scale') return standard
  if (standard.kind === 'scheme') return { ...standard, body: { criteria: standard.body.criteria.map(({ notes: _, ...c }) => c) } }
  const { criteria, ...body } = asUsed(standard.body, use)
  const bare = criteria.map((c) => ({ ...c, levels: c.levels.map(({ comment: _, ...l }) => l) }))
  return { ...standard, body: { ...body, criteria: bare } }
}

function shown(x: ExemplarRow, outOf: number): OwnWork['work'][number]['exemplars'] {
  if (x.shown === 'nothing') return []
  const { label, text, mark, judgement, note } = x
  const why = x.shown === 'levels' ? { picks: JSON.parse(x.picks) as Record<string, number>, judgement, note } : null
  return [{ label, text, mark, outOf, why }]
}
