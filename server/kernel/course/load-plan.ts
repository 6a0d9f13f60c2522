import { planWithChanges, type Workings } from '#core/trial'
import type { Change, CourseHead, Plan, Release, Role } from '#contract'
import type { Db } from '../db/open'
import { HttpProblem } from '../problem'
import { issuesOf } from './issues'
import { toAssessment, toComponent, type AssessmentRow, type ComponentRow } from './rows'

interface HeadRow {
  id: string
  code: string
  title: string
  term: string
  first_day: string
  last_day: string
  sections: number
  students: number
  issue: number | null
  away_at: string | null
  nameless_at: string | null
  version: number
  plan_version: number
  policy: string
  boundaries: string
  conditions: string
}

export type PlanCore = Omit<Plan, 'head'> & { head: Omit<CourseHead, 'role'> }
export interface Decided {
  plan: PlanCore
  /** What else the decisions in force say. */
  adjustments: Workings['adjustments']
  agreeBy: Workings['agreeBy']
}

/** Reads a course's plan with its decisions in force, without its scripts; kept until a write to more than its marks. */
export function planLoader(db: Db) {
  const issues = issuesOf(db)
  const versions = db.prepare<[string], { version: number; planVersion: number }>(
    'SELECT version, plan_version AS planVersion FROM course WHERE id = ?',
  )
  const head = db.prepare<[string], HeadRow>(`
    SELECT c.id, c.code, c.title, c.term, c.first_day, c.last_day, c.version, c.plan_version, c.policy, c.boundaries, c.conditions, c.away_at, c.nameless_at,
      (SELECT count(*) FROM section s WHERE s.course_id = c.id) AS sections,
      (SELECT count(*) FROM section s JOIN enrolment e ON e.section_id = s.id WHERE s.course_id = c.id AND e.to_day IS NULL) AS students,
      (SELECT number FROM issue i WHERE i.course_id = c.id AND i.reopened_at IS NULL) AS issue
    FROM course c WHERE c.id = ?`)
  const sections = db.prepare<[string], Omit<Plan['sections'][number], 'weekdays'> & { weekdays: string }>(`
    SELECT s.id, s.code, s.name, p.name AS teacher, s.weekdays, s.first_day AS firstDay,
      (SELECT count(*) FROM enrolment e WHERE e.section_id = s.id AND e.to_day IS NULL) AS students
    FROM section s LEFT JOIN person p ON p.id = s.teacher_id WHERE s.course_id = ? ORDER BY s.position`)
  const components = db.prepare<[string], ComponentRow>('SELECT * FROM component WHERE course_id = ? ORDER BY position')
  const assessments = db.prepare<[string], AssessmentRow>(
    'SELECT a.* FROM assessment a JOIN component c ON c.id = a.component_id WHERE a.course_id = ? ORDER BY c.position, a.position',
  )
  const placements = db
    .prepare<[string], [string, string, string | null, string]>(
      'SELECT p.assessment_id, p.section_id, p.due, p.release FROM placement p JOIN assessment a ON a.id = p.assessment_id WHERE a.course_id = ?',
    )
    .raw()
  const accepted = db.prepare<[string], Plan['accepted'][number]>(
    'SELECT f.key, f.reason, p.name AS by, f.at FROM finding_accepted f JOIN person p ON p.id = f.by_id WHERE f.course_id = ?',
  )
  const marked = db.prepare<[{ course: string }], { marked: number }>(`
    SELECT EXISTS (SELECT 1 FROM assessment a JOIN script s ON s.assessment_id = a.id WHERE a.course_id = @course AND s.entered IS NOT NULL)
      OR EXISTS (SELECT 1 FROM assessment a JOIN script s ON s.assessment_id = a.id JOIN reading r ON r.script_id = s.id
        WHERE a.course_id = @course AND r.state = 'handed in') AS marked`)
  const inForce = db
    .prepare<[string], [string, string]>('SELECT id, changes FROM decision WHERE course_id = ? AND withdrawn_at IS NULL ORDER BY seq')
    .raw()

  const kept = new Map<string, { planVersion: number; decided: Decided }>()

  /** @param without a decision that is left out, as if it were withdrawn */
  function read(row: HeadRow, without: string | null = null): Decided {
    const id = row.id
    const sectionRows = sections.all(id).map((s) => ({ ...s, weekdays: JSON.parse(s.weekdays) as number[] }))
    const all = assessments.all(id)
    const decisions = inForce
      .all(id)
      .filter(([decisionId]) => decisionId !== without)
      .map(([decisionId, changes]) => ({ decisionId, changes: JSON.parse(changes) as Change[] }))
    const takenBy = new Map(
      decisions.flatMap((d) => d.changes.flatMap((c) => (c.kind === 'take away' ? [[c.assessmentId, d.decisionId] as const] : []))),
    )
    const gone = (a: AssessmentRow) => !!a.away || takenBy.has(a.id)
    const base = {
      policy: JSON.parse(row.policy) as Plan['policy'],
      boundaries: JSON.parse(row.boundaries) as Plan['boundaries'],
      conditions: JSON.parse(row.conditions) as Plan['conditions'],
      components: components.all(id).map(toComponent),
      assessments: all.filter((a) => !gone(a)).map(toAssessment),
    }
    const sectionAt = new Map(sectionRows.map((s, i) => [s.id, i]))
    const assessmentAt = new Map(base.assessments.map((a, i) => [a.id, i]))
    const releases: Release[] = []
    const releaseAt = new Map<string, number>()
    const placementRows: Plan['placements'] = []
    for (const [assessmentId, sectionId, due, release] of placements.all(id)) {
      const assessment = assessmentAt.get(assessmentId)
      if (assessment === undefined) continue
      if (!releaseAt.has(release)) releaseAt.set(release, releases.push(JSON.parse(release) as Release) - 1)
      placementRows.push([assessment, sectionAt.get(sectionId)!, due, releaseAt.get(release)!])
    }
    const changes = decisions.flatMap((d) => d.changes)
    const decided = planWithChanges({ ...base, leftOut: {} }, changes)
    const plan: PlanCore = {
      head: {
        id,
        code: row.code,
        title: row.title,
        term: row.term,
        firstDay: row.first_day,
        lastDay: row.last_day,
        sections: row.sections,
        students: row.students,
        confirmedIssue: row.issue,
        issueInForce: issues.inForce(id)?.number ?? null,
        awayAt: row.away_at,
        namelessAt: row.nameless_at,
      },
      version: row.version,
      hasMarks: !!marked.get({ course: id })!.marked,
      ...decided.plan,
      sections: sectionRows,
      away: all.filter(gone).map((a) => ({ id: a.id, title: a.title, decisionId: takenBy.get(a.id) ?? null, version: a.version })),
      releases,
      placements: placementRows,
      accepted: accepted.all(id),
    }
    return { plan, adjustments: decided.adjustments, agreeBy: decided.agreeBy }
  }

  function headOf(courseId: string): HeadRow {
    const row = head.get(courseId)
    if (!row) throw new HttpProblem(404, 'There is no such course.')
    return row
  }

  return {
    /** @throws HttpProblem 404 where there is no such course */
    load(courseId: string): Decided {
      // Asked for by nearly every request, and nearly always nothing but marks has changed.
      const now = versions.get(courseId)
      const before = kept.get(courseId)
      if (!now || before?.planVersion !== now.planVersion) {
        const row = headOf(courseId)
        const decided = read(row)
        kept.set(courseId, { planVersion: row.plan_version, decided })
        return decided
      }
      if (before.decided.plan.version !== now.version) {
        // Of marks the plan says that there are any, and no more.
        const hasMarks = !!marked.get({ course: courseId })!.marked
        before.decided = { ...before.decided, plan: { ...before.decided.plan, version: now.version, hasMarks } }
      }
      return before.decided
    },
    /** What is in force at this point of a write, which is not yet a version of the course. @throws HttpProblem 404 where there is no such course */
    now: (courseId: string): Decided => read(headOf(courseId)),
    /** What would be in force without a decision. @throws HttpProblem 404 where there is no such course */
    without: (courseId: string, decisionId: string): Decided => read(headOf(courseId), decisionId),
    head(courseId: string, role: Role): CourseHead {
      return { ...this.load(courseId).plan.head, role }
    },
  }
}

export type PlanLoader = ReturnType<typeof planLoader>
