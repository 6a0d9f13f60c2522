import Database from 'better-sqlite3'
import { parse } from 'csv-parse/sync'
import Fraction from 'fraction.js'
import { join } from 'node:path'
import type { Boundary, Condition, Course, Policy, Status, TotalAdjustment } from '#core/grades'
import { oracle, type OracleResult } from '../core/testing/oracle'

/**
 * The results of a course worked out again, straight from the database's readings and decisions, without the
 * program's own pipeline: criteria left out, leans taken out, agreed means, adjustments and grades in exact fractions.
 */
export function independentResults(data: string, courseId: string): Map<string, OracleResult> {
  const db = new Database(join(data, 'level-table.db'), { readonly: true })
  const all = <T>(sql: string) => db.prepare(sql).all(courseId) as T[]
  const [head] = all<{ policy: string; boundaries: string }>('SELECT policy, boundaries FROM course WHERE id = ?')
  const changes = all<{ changes: string }>(
    'SELECT changes FROM decision WHERE course_id = ? AND withdrawn_at IS NULL ORDER BY seq',
  ).flatMap((d) => JSON.parse(d.changes) as Decided[])
  // The last word on each condition holds; one that was taken away is null.
  const conditions = new Map(changes.flatMap((c) => (c.kind === 'condition' ? [[c.conditionId, c.condition] as const] : [])))
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
  const readings = new Map<string, Read[]>()
  for (const r of all<{ script: string; marker: string; mark: number; picks: string; body: string | null }>(
    `SELECT r.script_id AS script, r.marker_id AS marker, r.mark, r.picks, x.body FROM reading r JOIN script s ON s.id = r.script_id
     JOIN assessment a ON a.id = s.assessment_id LEFT JOIN standard x ON x.id = r.standard_id WHERE a.course_id = ? ORDER BY r.handed_in_at`,
  )) {
    const read = {
      marker: r.marker,
      mark: r.mark,
      picks: JSON.parse(r.picks) as Read['picks'],
      body: JSON.parse(r.body ?? '{}') as Read['body'],
    }
    readings.set(r.script, [...(readings.get(r.script) ?? []), read])
  }
  db.close()

  // What was adjusted again under the same name stands as it was adjusted last, in its first place.
  const stack = new Map(changes.flatMap((c) => (c.kind === 'adjust' ? [[c.adjustment.id, c.adjustment] as const] : [])))
  const sectionOf = new Map(students.map((s) => [s.id, s.section]))
  const settled = new Map(changes.flatMap((c) => (c.kind === 'settle' ? [[c.scriptId, c] as const] : [])))
  const mark = (s: (typeof scripts)[number]): number | null => {
    if (!['in', 'late', 'held'].includes(s.status)) return null
    const mine = [...stack.values()].filter(
      (a) => a.assessmentId === s.assessment && (a.sectionIds === null || a.sectionIds.includes(sectionOf.get(s.student)!)),
    )
    const own = (readings.get(s.id) ?? []).map((r) => counted(r, mine))
    const decided = settled.get(s.id)
    const wanted = assessments.find((a) => a.id === s.assessment)!.readings_wanted
    const plain = decided ? agreed(own, decided) : (s.entered ?? (wanted === 1 ? (own[0] ?? null) : null))
    return mine.reduce<number | null>((m, a) => (m === null ? null : rescaled(m, a)), plain)
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
    conditions: [...conditions.values()].flatMap((c) => c ?? []),
    adjustments: [...stack.values()].flatMap(({ assessmentId, method, neverLower }) =>
      assessmentId === null ? [{ method: method as TotalAdjustment['method'], neverLower }] : [],
    ),
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
  | { kind: 'condition'; conditionId: string; condition: Condition | null }
  | { kind: 'settle'; scriptId: string; rule: { kind: string; mark?: number; markerId?: string }; step: number | null; mark: number }
  | { kind: 'adjust'; adjustment: Adjusted }
  | { kind: 'weigh'; componentId: string; weight: number }
  | { kind: 'bound'; boundaries: Boundary[] }

type Method =
  | { kind: 'curve'; points: [number, number][] }
  | { kind: 'matchMeanSd'; from: { mean: number; sd: number }; to: { mean: number; sd: number } }
  | { kind: 'markerEffect'; markerId: string; effect: number; factor: number }
  | { kind: 'without'; criterionIds: string[] }
  | { kind: 'topTo'; to: number; highest: string }
  | { kind: 'add'; by: number }

interface Adjusted {
  id: string
  assessmentId: string | null
  outOf: number
  sectionIds: string[] | null
  method: Method
  neverLower: boolean
  step: number | null
}

interface Read {
  marker: string
  mark: number
  picks: Record<string, number>
  body: { criteria?: { id: string; penalty?: boolean; levels: { points: number; to?: number }[] }[] }
}

const exactly = (x: number) => new Fraction(String(x))

/** A reading as it counts: without the criteria that are left out, then without its marker’s lean. */
function counted({ marker, mark, picks, body }: Read, adjustments: readonly Adjusted[]): number {
  let counts = exactly(mark)
  for (const { method, outOf } of adjustments) {
    if (method.kind !== 'without') continue
    const left = body.criteria!.filter((c) => !method.criterionIds.includes(c.id))
    const total = left.reduce((t, c) => (c.penalty ? t.sub(exactly(picks[c.id] ?? 0)) : t.add(exactly(picks[c.id] ?? 0))), new Fraction(0))
    const most = left.reduce(
      (t, c) => (c.penalty ? t : t.add(exactly(Math.max(...c.levels.map((l) => l.to ?? l.points))))),
      new Fraction(0),
    )
    counts = (total.compare(0) < 0 ? new Fraction(0) : total).div(most).mul(outOf)
  }
  for (const { method, outOf } of adjustments) {
    if (method.kind !== 'markerEffect' || method.markerId !== marker) continue
    counts = within(counts.sub(exactly(method.effect).mul(exactly(method.factor))), outOf)
  }
  return counts.valueOf()
}

const within = (x: Fraction, outOf: number) => (x.compare(0) < 0 ? new Fraction(0) : x.compare(outOf) > 0 ? new Fraction(outOf) : x)

function agreed(marks: number[], { rule, step, mark }: Extract<Decided, { kind: 'settle' }>): number {
  const exact = {
    mean: () => marks.reduce((s, m) => s.add(exactly(m)), new Fraction(0)).div(marks.length),
    highest: () => exactly(Math.max(...marks)),
    lowest: () => exactly(Math.min(...marks)),
  }[rule.kind]
  return exact && step ? stepped(exact(), step) : mark
}

const stepped = (x: Fraction, step: number) => x.div(String(step)).add('1/2').floor().mul(String(step)).valueOf()

function rescaled(mark: number, { method, neverLower, step, outOf }: Adjusted): number {
  const exact = mapped(exactly(mark), method)
  if (!exact) return mark
  const after = within(exactly(step === null ? exact.valueOf() : stepped(exact, step)), outOf).valueOf()
  return neverLower ? Math.max(mark, after) : after
}

/** Null for what acts on readings. */
function mapped(mark: Fraction, method: Method): Fraction | null {
  if (method.kind === 'matchMeanSd')
    return exactly(method.to.mean).add(mark.sub(exactly(method.from.mean)).mul(exactly(method.to.sd)).div(exactly(method.from.sd)))
  if (method.kind === 'add') return mark.add(exactly(method.by))
  if (method.kind !== 'curve') return null
  const { points } = method
  const at = points.findIndex(([x]) => mark.compare(exactly(x)) <= 0)
  const [x0, y0] = points[Math.max(0, at - 1)]!
  const [x1, y1] = points[Math.max(1, at)]!
  return exactly(y0).add(
    mark
      .sub(exactly(x0))
      .mul(exactly(y1).sub(exactly(y0)))
      .div(exactly(x1).sub(exactly(x0))),
  )
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
