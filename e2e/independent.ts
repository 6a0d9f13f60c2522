import Database from 'better-sqlite3'
import { parse } from 'csv-parse/sync'
import Fraction from 'fraction.js'
import { join } from 'node:path'
import type { Boundary, Course, Policy, Status } from '#core/grades'
import { oracle, type OracleResult } from '../core/testing/oracle'

/**
 * The results of a course worked out again, straight from the database's readings and decisions, without the
 * program's own pipeline: agreed means, pulled points and grades in exact fractions.
 */
export function independentResults(data: string, courseId: string): Map<string, OracleResult> {
  const db = new Database(join(data, 'level-table.db'), { readonly: true })
  const all = <T>(sql: string) => db.prepare(sql).all(courseId) as T[]
  const [head] = all<{ policy: string; boundaries: string }>('SELECT policy, boundaries FROM course WHERE id = ?')
  const changes = all<{ changes: string }>(
    'SELECT changes FROM decision WHERE course_id = ? AND withdrawn_at IS NULL ORDER BY seq',
  ).flatMap((d) => JSON.parse(d.changes) as Decided[])
  const weights = new Map(changes.flatMap((c) => (c.kind === 'weigh' ? [[c.componentId, c.weight] as const] : [])))
  const bound = changes.findLast((c) => c.kind === 'bound')
  const components = all<{ id: string; weight: number; drop_lowest: number; bonus: number }>(
    'SELECT * FROM component WHERE course_id = ? ORDER BY position',
  )
  const assessments = all<{
    id: string
    component_id: string
    out_of: number
    worth: number
    bonus: number
    droppable: number
    readings_wanted: number
  }>('SELECT * FROM assessment WHERE course_id = ?')
  const students = all<{ id: string; candidate: string; section: string }>(
    'SELECT s.id, s.candidate, e.section_id AS section FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.course_id = ?',
  )
  const placements = all<{ assessmentId: string; sectionId: string }>(
    'SELECT assessment_id AS assessmentId, section_id AS sectionId FROM placement p JOIN assessment a ON a.id = p.assessment_id WHERE a.course_id = ?',
  )
  const scripts = all<{ id: string; student: string; assessment: string; status: Status; days: number; entered: number | null }>(
    `SELECT s.id, s.student_id AS student, s.assessment_id AS assessment, s.status, s.days_late AS days, s.entered
     FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = ?`,
  )
  const readings = new Map<string, number[]>()
  for (const r of all<{ script: string; mark: number }>(
    `SELECT r.script_id AS script, r.mark FROM reading r JOIN script s ON s.id = r.script_id JOIN assessment a ON a.id = s.assessment_id
     WHERE a.course_id = ? ORDER BY r.handed_in_at`,
  ))
    readings.set(r.script, [...(readings.get(r.script) ?? []), r.mark])
  db.close()

  const settled = new Map(changes.flatMap((c) => (c.kind === 'settle' ? [[c.scriptId, c] as const] : [])))
  const mark = (s: (typeof scripts)[number]): number | null => {
    if (!['in', 'late', 'held'].includes(s.status)) return null
    const own = readings.get(s.id) ?? []
    const decided = settled.get(s.id)
    const wanted = assessments.find((a) => a.id === s.assessment)!.readings_wanted
    const plain = decided ? agreed(own, decided) : (s.entered ?? (wanted === 1 ? (own[0] ?? null) : null))
    return changes.reduce<number | null>(
      (m, c) => (m !== null && c.kind === 'adjust' && c.adjustment.assessmentId === s.assessment ? pulled(m, c.adjustment) : m),
      plain,
    )
  }
  const course: Course = {
    policy: JSON.parse(head!.policy) as Policy,
    boundaries: bound?.kind === 'bound' ? bound.boundaries : (JSON.parse(head!.boundaries) as Boundary[]),
    components: components.map((c) => ({
      id: c.id,
      weight: weights.get(c.id) ?? c.weight,
      combine: 'byWorth',
      dropLowest: c.drop_lowest,
      bonus: !!c.bonus,
    })),
    assessments: assessments.map((a) => ({
      id: a.id,
      componentId: a.component_id,
      outOf: a.out_of,
      worth: a.worth,
      counts: true,
      bonus: !!a.bonus,
      droppable: !!a.droppable,
    })),
    placements,
    students: students.map((s) => ({ id: s.id, sectionId: s.section })),
    marks: scripts.map((s) => ({ studentId: s.student, assessmentId: s.assessment, mark: mark(s), status: s.status, daysLate: s.days })),
  }
  const results = new Map<string, OracleResult>()
  for (const s of students)
    results.set(
      s.candidate,
      oracle(
        { ...course, students: course.students.filter((x) => x.id === s.id), marks: course.marks.filter((m) => m.studentId === s.id) },
        s.id,
      ),
    )
  return results
}

type Decided =
  | { kind: 'settle'; scriptId: string; rule: { kind: string; mark?: number; markerId?: string }; step: number | null; mark: number }
  | { kind: 'adjust'; adjustment: Pulled }
  | { kind: 'weigh'; componentId: string; weight: number }
  | { kind: 'bound'; boundaries: Boundary[] }

interface Pulled {
  assessmentId: string
  outOf: number
  method: { kind: 'curve'; points: [number, number][] }
  neverLower: boolean
  step: number
}

function agreed(marks: number[], { rule, step, mark }: Extract<Decided, { kind: 'settle' }>): number {
  const exact = {
    mean: () => marks.reduce((s, m) => s.add(String(m)), new Fraction(0)).div(marks.length),
    highest: () => new Fraction(String(Math.max(...marks))),
    lowest: () => new Fraction(String(Math.min(...marks))),
  }[rule.kind]
  return exact && step ? stepped(exact(), step) : mark
}

const stepped = (x: Fraction, step: number) => x.div(String(step)).add('1/2').floor().mul(String(step)).valueOf()

function pulled(mark: number, { method: { points }, neverLower, step, outOf }: Pulled): number {
  const at = points.findIndex(([x]) => mark <= x)
  const [x0, y0] = points[Math.max(0, at - 1)]!
  const [x1, y1] = points[Math.max(1, at)]!
  const exact = new Fraction(String(y0)).add(
    new Fraction(String(mark))
      .sub(String(x0))
      .mul(new Fraction(String(y1)).sub(String(y0)))
      .div(new Fraction(String(x1)).sub(String(x0))),
  )
  const after = Math.min(outOf, Math.max(0, stepped(exact, step)))
  return neverLower ? Math.max(mark, after) : after
}

/** Checks every row of an exported file against the independent results. @returns how many rows had a grade */
export function checkExport(csv: string, results: Map<string, OracleResult>): number {
  const rows = parse(csv, { columns: true, bom: true }) as Record<string, string>[]
  if (rows.length !== results.size) throw new Error(`${rows.length} rows in the file, ${results.size} students`)
  let graded = 0
  for (const row of rows) {
    const want = results.get(row.candidate!)!
    const rounded = want.rounded === null ? '' : String(want.rounded.valueOf())
    if (row.grade !== (want.grade ?? '') || row.rounded !== rounded || row.pending !== String(want.pending))
      throw new Error(`${row.candidate}: the file says ${row.rounded} ${row.grade}, the readings say ${rounded} ${want.grade}`)
    if (row.grade) graded++
  }
  return graded
}
