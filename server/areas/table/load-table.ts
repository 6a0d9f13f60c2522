import { applyChanges, STATUSES, workingsOf, type Status } from '#core'
import type { Assessment, Change, Component, CourseHead, CourseTable, Role } from '#contract'
import type { Db } from '../../db/open'
import { HttpProblem } from '../../problem'

export interface ComponentRow {
  id: string
  title: string
  weight: number | null
  combine: 'byWorth' | 'equally'
  drop_lowest: number
  bonus: number
  version: number
}

export interface AssessmentRow {
  id: string
  component_id: string
  title: string
  marking: Assessment['marking']
  out_of: number
  worth: number | null
  counts: number
  bonus: number
  droppable: number
  pass_mark: number | null
  tolerance: number
  readings_wanted: number
  step: number | null
  standard_id: string | null
  version: number
}

export const toComponent = (r: ComponentRow): Component => ({
  id: r.id,
  title: r.title,
  weight: r.weight,
  combine: r.combine,
  dropLowest: r.drop_lowest,
  bonus: !!r.bonus,
  version: r.version,
})

export const toAssessment = (r: AssessmentRow): Assessment => ({
  id: r.id,
  componentId: r.component_id,
  title: r.title,
  marking: r.marking,
  outOf: r.out_of,
  worth: r.worth,
  counts: !!r.counts,
  bonus: !!r.bonus,
  droppable: !!r.droppable,
  passMark: r.pass_mark,
  tolerance: r.tolerance,
  readingsWanted: r.readings_wanted,
  step: r.step,
  standardId: r.standard_id,
  version: r.version,
})

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
  version: number
  policy: string
  boundaries: string
}

type TableCore = Omit<CourseTable, 'head'> & { head: Omit<CourseHead, 'role'> }

/** Reads a course and what is in force in it; kept until the course's version rises. */
export function tableLoader(db: Db) {
  const head = db.prepare<[string], HeadRow>(`
    SELECT c.id, c.code, c.title, c.term, c.first_day, c.last_day, c.version, c.policy, c.boundaries,
      (SELECT count(*) FROM section s WHERE s.course_id = c.id) AS sections,
      (SELECT count(*) FROM student s WHERE s.course_id = c.id) AS students,
      (SELECT number FROM issue i WHERE i.course_id = c.id AND i.reopened_at IS NULL) AS issue
    FROM course c WHERE c.id = ?`)
  const sections = db.prepare<[string], { id: string; code: string; name: string; teacher: string | null }>(
    'SELECT s.id, s.code, s.name, p.name AS teacher FROM section s LEFT JOIN person p ON p.id = s.teacher_id WHERE s.course_id = ? ORDER BY s.position',
  )
  const students = db.prepare<[string], { id: string; name: string; candidate: string; sectionId: string }>(`
    SELECT s.id, s.name, s.candidate, e.section_id AS sectionId FROM student s
    JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
    JOIN section x ON x.id = e.section_id WHERE s.course_id = ? ORDER BY x.position, s.name, s.candidate`)
  const markers = db.prepare<[{ course: string }], { id: string; name: string }>(`
    SELECT DISTINCT p.id, p.name FROM person p LEFT JOIN course_role c ON c.person_id = p.id AND c.course_id = @course AND c.role = 'marker'
    WHERE c.person_id IS NOT NULL OR p.id IN (
      SELECT r.marker_id FROM reading r JOIN script s ON s.id = r.script_id JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = @course)
    ORDER BY p.name`)
  const components = db.prepare<[string], ComponentRow>('SELECT * FROM component WHERE course_id = ? ORDER BY position')
  const assessments = db.prepare<[string], AssessmentRow>(
    'SELECT a.* FROM assessment a JOIN component c ON c.id = a.component_id WHERE a.course_id = ? ORDER BY c.position, a.position',
  )
  const placements = db.prepare<[string], { assessmentId: string; sectionId: string; due: string | null }>(
    'SELECT p.assessment_id AS assessmentId, p.section_id AS sectionId, p.due FROM placement p JOIN assessment a ON a.id = p.assessment_id WHERE a.course_id = ?',
  )
  const scripts = db
    .prepare<[string], [string, string, string, Status, number, number | null, number]>(
      'SELECT s.id, s.student_id, s.assessment_id, s.status, s.days_late, s.entered, s.version FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = ? ORDER BY s.rowid',
    )
    .raw()
  const readings = db
    .prepare<[string], [string, string, number]>(
      `SELECT r.script_id, r.marker_id, r.mark FROM reading r JOIN script s ON s.id = r.script_id JOIN assessment a ON a.id = s.assessment_id
       WHERE a.course_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
    )
    .raw()
  const inForce = db
    .prepare<[string], [string]>('SELECT changes FROM decision WHERE course_id = ? AND withdrawn_at IS NULL ORDER BY seq')
    .raw()

  const kept = new Map<string, TableCore>()

  function read(row: HeadRow): TableCore {
    const id = row.id
    const studentRows = students.all(id)
    const markerRows = markers.all({ course: id })
    const assessmentRows = assessments.all(id).map(toAssessment)
    const place = (list: { id: string }[]) => new Map(list.map((x, i) => [x.id, i]))
    const [studentAt, markerAt, assessmentAt] = [place(studentRows), place(markerRows), place(assessmentRows)]
    const columns: CourseTable['scripts'] = { id: [], student: [], assessment: [], status: [], daysLate: [], entered: [], version: [] }
    const scriptAt = new Map<string, number>()
    for (const [scriptId, studentId, assessmentId, status, daysLate, entered, version] of scripts.all(id)) {
      const student = studentAt.get(studentId)
      if (student === undefined) continue // not enrolled any more: the work stays, the roll has moved on
      scriptAt.set(scriptId, columns.id.length)
      columns.id.push(scriptId)
      columns.student.push(student)
      columns.assessment.push(assessmentAt.get(assessmentId)!)
      columns.status.push(STATUSES.indexOf(status))
      columns.daysLate.push(daysLate)
      columns.entered.push(entered)
      columns.version.push(version)
    }
    const readingColumns: CourseTable['readings'] = { script: [], marker: [], mark: [] }
    for (const [scriptId, markerId, mark] of readings.all(id)) {
      const script = scriptAt.get(scriptId)
      if (script === undefined) continue
      readingColumns.script.push(script)
      readingColumns.marker.push(markerAt.get(markerId)!)
      readingColumns.mark.push(mark)
    }
    const base: TableCore = {
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
      },
      version: row.version,
      hasMarks: columns.entered.some((m) => m !== null) || readingColumns.mark.length > 0,
      policy: JSON.parse(row.policy) as CourseTable['policy'],
      boundaries: JSON.parse(row.boundaries) as CourseTable['boundaries'],
      sections: sections.all(id),
      students: studentRows,
      markers: markerRows,
      components: components.all(id).map(toComponent),
      assessments: assessmentRows,
      placements: placements.all(id),
      scripts: columns,
      readings: readingColumns,
      agreed: {},
      adjustments: [],
    }
    return withChanges(
      base,
      inForce.all(id).flatMap(([changes]) => JSON.parse(changes) as Change[]),
    )
  }

  return {
    /** @throws HttpProblem 404 where there is no such course */
    load(courseId: string): TableCore {
      const row = head.get(courseId)
      if (!row) throw new HttpProblem(404, 'There is no such course.')
      const before = kept.get(courseId)
      if (before?.version === row.version) return before
      const table = read(row)
      kept.set(courseId, table)
      return table
    },
    head(courseId: string, role: Role): CourseHead {
      return { ...this.load(courseId).head, role }
    },
  }
}

export type TableLoader = ReturnType<typeof tableLoader>

/** The table with decided changes in it; what nobody typed and nobody decided stays empty. */
function withChanges(base: TableCore, changes: Change[]): TableCore {
  const w = applyChanges(workingsOf(base), changes)
  const decided = new Set(
    changes.map((c) => (c.kind === 'weigh' ? c.componentId : c.kind === 'assess' && c.patch.worth !== undefined ? c.assessmentId : '')),
  )
  return {
    ...base,
    boundaries: w.course.boundaries,
    agreed: w.agreed,
    adjustments: w.adjustments,
    components: base.components.map((c, i) => ({
      ...c,
      weight: c.weight === null && !decided.has(c.id) ? null : w.course.components[i]!.weight,
    })),
    assessments: base.assessments.map((a, i) => {
      const { worth, counts, bonus, droppable } = w.course.assessments[i]!
      return { ...a, worth: a.worth === null && !decided.has(a.id) ? null : worth, counts, bonus, droppable }
    }),
  }
}
