import { appliesIn, isReleased, placementFor, type Stay } from '#core/roll'
import { standingMarks, standingOfStudent, workingsOf } from '#core/trial'
import { routes, type Assessment, type IssueContent, type IssueResult, type OwnWork, type StandardInUse, type StandardUse } from '#contract'
import type { Clock } from '../../kernel/clock'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { issuesOf } from '../../kernel/course/issues'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { libraryQueries } from '../../kernel/standards/queries'
import { asUsed, standardsOf } from '../../kernel/standards/judge'
import { tuningQueries, type ExemplarRow } from '../../kernel/standards/exemplars'
import { ownStandings } from './own-standings'
import { levelsFor, type Levels } from './levels'
import { remarksFor } from './remarks'

/** What a student is sent: their own work, and of it only what is released. */
export function ownWorkRoutes(handle: Handle, db: Db, plans: PlanLoader, tables: TableLoader, clock: Clock): void {
  const inLibrary = standardsOf(libraryQueries(db))
  const tuning = tuningQueries(db)
  const remarksOf = remarksFor(db)
  const standingsOf = ownStandings(db)
  const levelsOf = levelsFor(db)
  function shownLevels(levels: Levels | null, use: StandardUse): OwnWork['work'][number]['levels'] {
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
  const issues = issuesOf(db)
  const release = db.prepare<[string, string], { onDay: string }>(
    'SELECT on_day AS onDay FROM result_release WHERE course_id = ? AND section_id = ?',
  )
  const NEVER = '9999'
  const releasedOn = (courseId: string, sectionId: string): string => release.get(courseId, sectionId)?.onDay ?? NEVER
  // One student's part alone is read out of the frozen content.
  const frozen = db.prepare<
    [{ course: string; number: number; student: string }],
    { result: string; conditions: string | null; boundaries: string; hash: string }
  >(
    `SELECT r.value AS result, json_extract(i.content, '$.conditions') AS conditions, i.boundaries, i.hash
     FROM issue i, json_each(i.content, '$.results') r
     WHERE i.course_id = @course AND i.number = @number AND json_extract(r.value, '$.studentId') = @student`,
  )
  function resultIn(courseId: string, number: number, studentId: string): OwnWork['result'] {
    const row = frozen.get({ course: courseId, number, student: studentId })
    if (!row) return null
    const { rounded, grade, pending, components, heldBy = [] } = JSON.parse(row.result) as IssueResult
    const conditions = JSON.parse(row.conditions ?? '[]') as NonNullable<IssueContent['conditions']>
    const boundaries = JSON.parse(row.boundaries) as IssueContent['boundaries']
    return {
      issue: number,
      percent: rounded,
      grade,
      pending,
      components,
      begins: boundaries.find((b) => b.grade === grade)?.from ?? null,
      heldBy: heldBy.map((at) => conditions[at]!),
    }
  }
  const own = db.prepare<[string, string], { id: string }>('SELECT id FROM student WHERE course_id = ? AND person_id = ?')

  handle(routes.ownWork, ({ params: { courseId }, me }): OwnWork => {
    const { plan } = plans.load(courseId)
    const table = tables.load(courseId)
    const student = table.students.find((s) => s.id === own.get(courseId, me.id)?.id)
    if (!student) throw new HttpProblem(404, 'You are not on the roll of this course.')
    const applies = appliesIn(table)
    const workings = workingsOf(table)
    const standing = new Map(standingOfStudent(workings, standingMarks(workings), student.id).map((s) => [s.assessmentId, s]))
    const today = clock.today()
    const issue = issues.inForce(courseId)
    const issued = issue && resultIn(courseId, issue.number, student.id)
    const releasedIds = new Set<string>()
    const stays: Stay[] = table.stays[student.id] ?? []
    const work = table.assessments.flatMap((a, at): OwnWork['work'] => {
      if (!applies(student.id, a.id)) return []
      const placed = plan.placements.flatMap(([x, s, due, r]) =>
        x === at ? [{ sectionId: plan.sections[s]!.id, due, release: plan.releases[r]! }] : [],
      )
      const placement = placementFor(placed, stays, student.sectionId)
      const due = placement?.due ?? null
      const release = placement?.release
      const released = !!release && isReleased(release, { today, due, confirmed: issue !== null })
      if (released) releasedIds.add(a.id)
      const mark = released ? standing.get(a.id) : undefined
      // A script that is held is looked into: its mark and its remarks wait.
      const remarked = mark && a.use.remarks && mark.mark !== null && mark.status !== 'held'
      return [
        {
          assessment: a.title,
          due,
          released,
          mark: mark?.mark ?? null,
          outOf: released ? a.outOf : null,
          status: mark?.status ?? null,
          remarks: remarked ? remarksOf(mark.scriptId, mark.plain) : [],
          levels: remarked ? shownLevels(levelsOf(mark.scriptId, mark.plain, a.standardId), a.use) : null,
          standard: a.use.studentsBefore ? standardOf(a) : null,
          exemplars: tuning.all(a.id).flatMap((x) => shown(x, a.outOf)),
        },
      ]
    })
    return {
      standings: standingsOf(plan, workings, student.id, releasedIds),
      name: student.name,
      candidate: student.candidate,
      section: plan.sections.find((s) => s.id === student.sectionId)?.name ?? '',
      work,
      result: issued && releasedOn(courseId, student.sectionId) <= today ? issued : null,
    }
  })
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
