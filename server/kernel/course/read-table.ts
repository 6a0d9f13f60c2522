import { againBy, type AgreeRule } from '#core/agree'
import { STATUSES } from '#core/grades'
import type { CourseHead, CourseTable } from '#contract'
import { columnsOf } from '../db/columns'
import type { Db } from '../db/open'
import type { Decided, PlanLoader } from './load-plan'

/** The word for a rule as it is kept. */
export const wordOf = (rule: string | null): string | null => (rule === null ? null : againBy(JSON.parse(rule) as AgreeRule))

export type TableCore = Omit<CourseTable, 'head'> & { head: Omit<CourseHead, 'role'> }

interface ScriptRow {
  id: string
  studentId: string
  /** Place in STATUSES. */
  status: number
  daysLate: number
  entered: number | null
  version: number
}
const STATUS_AT = `CASE status ${STATUSES.map((s, i) => `WHEN '${s}' THEN ${i}`).join(' ')} END`

interface ReadingRow {
  studentId: string
  markerId: string
  mark: number
}

type Scripts = CourseTable['scripts']
type Column = (string | number | null)[]

const COLUMNS = ['id', 'student', 'assessment', 'status', 'daysLate', 'entered', 'version'] as const satisfies (keyof Scripts)[]
const inColumns = (column: (name: keyof Scripts) => Column): Scripts =>
  Object.fromEntries(COLUMNS.map((name) => [name, column(name)])) as Record<keyof Scripts, Column> as Scripts

/** Without the scripts of who left, who are on the table no more; their work stays where it is kept. */
const staying = (scripts: Scripts): Scripts =>
  scripts.student.includes(-1) ? inColumns((name) => (scripts[name] as Column).filter((_, i) => scripts.student[i]! >= 0)) : scripts

const joined = (parts: readonly Scripts[]): Scripts => inColumns((name) => ([] as Column).concat(...parts.map((part) => part[name])))

/** What a course's table is read by: all of it, what of it was settled, and what of it follows from the plan. */
export function tableReader(db: Db, plans: PlanLoader) {
  const students = db.prepare<[string], { id: string; name: string; candidate: string; sectionId: string }>(`
    SELECT s.id, s.name, s.candidate, e.section_id AS sectionId FROM student s
    JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
    JOIN section x ON x.id = e.section_id WHERE s.course_id = ? ORDER BY x.position, s.name, s.candidate`)
  const moves = db
    .prepare<[{ course: string }], [string, string, string, string | null]>(
      `SELECT e.student_id, e.section_id, e.from_day, e.to_day FROM enrolment e JOIN student s ON s.id = e.student_id
       WHERE s.course_id = @course AND e.student_id IN (
         SELECT student_id FROM enrolment WHERE section_id IN (SELECT id FROM section WHERE course_id = @course)
         GROUP BY student_id HAVING count(*) > 1)
       ORDER BY e.from_day`,
    )
    .raw()
  const markers = db.prepare<[string], { id: string; name: string }>(
    "SELECT p.id, p.name FROM course_role c JOIN person p ON p.id = c.person_id WHERE c.course_id = ? AND c.role = 'marker'",
  )
  const person = db.prepare<[string], { id: string; name: string }>('SELECT id, name FROM person WHERE id = ?')
  const scripts = columnsOf<ScriptRow>(
    db,
    { id: 'id', studentId: 'student_id', status: STATUS_AT, daysLate: 'days_late', entered: 'entered', version: 'version' },
    'FROM script WHERE assessment_id = ? ORDER BY rowid',
  )
  const readings = columnsOf<ReadingRow>(
    db,
    { studentId: 's.student_id', markerId: 'r.marker_id', mark: 'coalesce(c.mark, r.mark)' },
    `FROM script s JOIN reading r ON r.script_id = s.id
     LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
     WHERE s.assessment_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
  )
  const lastWords = db
    .prepare<[string], [string, number | null, string | null]>(
      'SELECT g.script_id, g.mark, g.rule FROM decision d JOIN last_word g ON g.decision_id = d.id WHERE d.course_id = ? AND d.withdrawn_at IS NULL',
    )
    .raw()

  /** Reads a course; stops after each assessment, so that whoever else is asking may be answered in between. */
  function* reading(id: string): Generator<void, TableCore> {
    const decided = plans.load(id)
    const { plan } = decided
    yield
    const studentRows = students.all(id)
    const studentAt = new Map(studentRows.map((x, i) => [x.id, i]))
    const parts: Scripts[] = []
    let first = 0
    const read: { script: number[]; markerId: string[]; mark: number[] } = { script: [], markerId: [], mark: [] }
    yield
    // An assessment at a time: all rows of a large department at once would keep the collector busy.
    const ofStudent = new Int32Array(studentRows.length)
    for (const [assessment, a] of plan.assessments.entries()) {
      const { studentId, ...rest } = scripts(a.id)
      let last = -1
      // Scripts mostly come in the order of the roll.
      const places = studentId.map((own) => (last = studentRows[last + 1]?.id === own ? last + 1 : (studentAt.get(own) ?? -1)))
      const part = staying({ ...rest, student: places, assessment: new Array<number>(places.length).fill(assessment) })
      ofStudent.fill(-1)
      part.student.forEach((student, i) => (ofStudent[student] = first + i))
      parts.push(part)
      first += part.student.length
      yield
      const its = readings(a.id)
      for (let i = 0; i < its.mark.length; i++) {
        const reader = studentAt.get(its.studentId[i]!)
        if (reader === undefined || ofStudent[reader]! < 0) continue
        read.script.push(ofStudent[reader]!)
        read.markerId.push(its.markerId[i]!)
        read.mark.push(its.mark[i]!)
      }
      yield
    }
    const markerRows = everyMarker(id, new Set(read.markerId))
    const markerAt = new Map(markerRows.map((x, i) => [x.id, i]))
    const readingColumns = { script: read.script, marker: read.markerId.map((m) => markerAt.get(m)!), mark: read.mark }
    const stays: CourseTable['stays'] = {}
    for (const [studentId, sectionId, from, to] of moves.all({ course: id }))
      if (studentAt.has(studentId)) (stays[studentId] ??= []).push({ sectionId, from, to })
    yield
    const settled = settledIn(id)
    yield
    return {
      ...ofPlan(decided),
      ...settled,
      students: studentRows,
      markers: markerRows,
      stays,
      scripts: joined(parts),
      readings: readingColumns,
    }
  }

  /** Who marks here, and who ever did, by name. */
  function everyMarker(id: string, readers: ReadonlySet<string>): { id: string; name: string }[] {
    const now = markers.all(id)
    const known = new Set(now.map((m) => m.id))
    const before = [...readers].flatMap((m) => (known.has(m) ? [] : (person.get(m) ?? [])))
    return [...now, ...before].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.id < b.id ? -1 : 1))
  }

  function settledIn(id: string): Pick<TableCore, 'agreed' | 'agreedBy' | 'reopened'> {
    const agreed: TableCore['agreed'] = {}
    const agreedBy: TableCore['agreedBy'] = {}
    const reopened: string[] = []
    for (const [scriptId, mark, rule] of lastWords.iterate(id)) {
      if (mark === null) reopened.push(scriptId)
      else {
        agreed[scriptId] = mark
        const word = wordOf(rule)
        if (word !== null) (agreedBy[word] ??= []).push(scriptId)
      }
    }
    return { agreed, agreedBy, reopened }
  }

  /** What of the table follows from the plan as it is decided. */
  function ofPlan({
    plan,
    adjustments,
    agreeBy,
  }: Decided): Omit<TableCore, 'students' | 'markers' | 'stays' | 'scripts' | 'readings' | 'agreed' | 'agreedBy' | 'reopened'> {
    const { head, version, hasMarks, policy, boundaries, conditions, components, assessments, leftOut } = plan
    return {
      head,
      version,
      hasMarks,
      policy,
      boundaries,
      conditions,
      sections: plan.sections.map(({ id, code, name, teacher }) => ({ id, code, name, teacher })),
      components,
      assessments,
      placements: plan.placements.map(([a, s, due]) => ({ assessmentId: assessments[a]!.id, sectionId: plan.sections[s]!.id, due })),
      leftOut,
      agreeBy,
      adjustments,
    }
  }

  return { reading, settledIn, ofPlan }
}
