import { randomUUID } from 'node:crypto'
import type { Stay } from '#core/roll'
import { unpackRoll, type Roll, type RollInColumns, type RollSection, type RollStudent } from '#contract'
import type { Db } from '../../kernel/db/open'

interface SectionRow {
  id: string
  code: string
  name: string
  teacherId: string | null
  teacher: string | null
  weekdays: string
  firstDay: string | null
  version: number
}

interface StudentRow {
  id: string
  name: string
  candidate: string
  external_id: string | null
  sign_in: string | null
  version: number
}

export type SectionFields = Pick<RollSection, 'code' | 'name' | 'teacherId' | 'weekdays' | 'firstDay'>
export type StudentFields = Pick<RollStudent, 'name' | 'candidate' | 'externalId' | 'signIn'>

/** Plain SQL of the roll. Writes go on inside the caller's transaction. */
export function rollQueries(db: Db) {
  const SECTION = `SELECT s.id, s.code, s.name, s.teacher_id AS teacherId, p.name AS teacher, s.weekdays, s.first_day AS firstDay, s.version
    FROM section s LEFT JOIN person p ON p.id = s.teacher_id`
  const sections = db.prepare<[string], SectionRow>(`${SECTION} WHERE s.course_id = ? ORDER BY s.position`)
  const section = db.prepare<[string, string], SectionRow>(`${SECTION} WHERE s.id = ? AND s.course_id = ?`)
  const STUDENT = 'SELECT id, name, candidate, external_id, sign_in, version FROM student'
  const students = db
    .prepare<[string], [string, string, string, string | null, string | null, number]>(
      `${STUDENT} WHERE course_id = ? ORDER BY name, candidate`,
    )
    .raw()
  const student = db.prepare<[string, string], StudentRow>(`${STUDENT} WHERE id = ? AND course_id = ?`)
  const stays = db
    .prepare<[string], [string, string, string, string | null]>(
      `SELECT e.student_id, e.section_id, e.from_day, e.to_day FROM section s JOIN enrolment e ON e.section_id = s.id
       WHERE s.course_id = ? ORDER BY e.from_day`,
    )
    .raw()
  const staysOf = db
    .prepare<[string], [string, string, string | null]>(
      'SELECT section_id, from_day, to_day FROM enrolment WHERE student_id = ? ORDER BY from_day',
    )
    .raw()
  const people = db.prepare<[string], { id: string; name: string }>(
    `SELECT p.id, p.name FROM course_role r JOIN person p ON p.id = r.person_id
     WHERE r.course_id = ? AND r.role IN ('lead', 'marker') AND p.active = 1 ORDER BY p.name`,
  )
  const course = db.prepare<[string], { version: number; names: number }>(
    'SELECT version, names_to_markers AS names FROM course WHERE id = ?',
  )
  const insertSection = db.prepare(
    `INSERT INTO section (id, course_id, code, name, teacher_id, weekdays, first_day, position)
     VALUES (?, ?, ?, ?, ?, ?, ?, (SELECT coalesce(max(position), -1) + 1 FROM section WHERE course_id = ?))`,
  )
  const updateSection = db.prepare(
    'UPDATE section SET code = ?, name = ?, teacher_id = ?, weekdays = ?, first_day = ?, version = version + 1 WHERE id = ?',
  )
  const insertStudent = db.prepare('INSERT INTO student (id, course_id, name, candidate, external_id, sign_in) VALUES (?, ?, ?, ?, ?, ?)')
  const updateStudent = db.prepare(
    'UPDATE student SET name = ?, candidate = ?, external_id = ?, sign_in = ?, version = version + 1 WHERE id = ?',
  )
  const removeStays = db.prepare('DELETE FROM enrolment WHERE student_id = ?')
  const insertStay = db.prepare('INSERT INTO enrolment (student_id, section_id, from_day, to_day) VALUES (?, ?, ?, ?)')
  const owner = db.prepare<[string, string], { id: string; name: string }>(
    'SELECT id, name FROM student WHERE course_id = ? AND candidate = ? COLLATE NOCASE',
  )
  const setNames = db.prepare('UPDATE course SET names_to_markers = ? WHERE id = ?')

  const everIn = db.prepare<[string], { n: number }>('SELECT count(*) AS n FROM enrolment WHERE section_id = ?')
  const work = db.prepare<[string], { n: number }>('SELECT count(*) AS n FROM script WHERE student_id = ?')
  const unplace = db.prepare('DELETE FROM placement WHERE section_id = ?')
  const removeSection = db.prepare('DELETE FROM section WHERE id = ?')
  const removeStudent = db.prepare('DELETE FROM student WHERE id = ?')

  const toSection = ({ weekdays, ...s }: SectionRow): RollSection => ({ ...s, weekdays: JSON.parse(weekdays) as number[] })
  const toStudent = ({ external_id, sign_in, ...s }: StudentRow, own: Stay[]): RollStudent => ({
    ...s,
    externalId: external_id,
    signIn: sign_in,
    stays: own,
  })

  const kept = new Map<string, RollInColumns>()

  /** By column, for a roll of thousands is asked for more often than any one student in it. */
  function inColumns(courseId: string): RollInColumns {
    const { version, names } = course.get(courseId)!
    const columns: RollInColumns['students'] = { id: [], name: [], candidate: [], externalId: [], signIn: [], version: [] }
    const placeOf = new Map<string, number>()
    for (const [id, name, candidate, externalId, signIn, rowVersion] of students.all(courseId)) {
      placeOf.set(id, placeOf.size)
      columns.id.push(id)
      columns.name.push(name)
      columns.candidate.push(candidate)
      columns.externalId.push(externalId)
      columns.signIn.push(signIn)
      columns.version.push(rowVersion)
    }
    const inOrder = sections.all(courseId).map(toSection)
    const sectionAt = new Map(inOrder.map((s, i) => [s.id, i]))
    return {
      version,
      sections: inOrder,
      students: columns,
      stays: stays.all(courseId).map(([studentId, sectionId, from, to]) => [placeOf.get(studentId)!, sectionAt.get(sectionId)!, from, to]),
      people: people.all(courseId),
      namesToMarkers: !!names,
    }
  }

  return {
    roll: (courseId: string): Roll => unpackRoll(inColumns(courseId)),
    /** The roll as it is sent; kept until the course's version rises. Not for use inside a write. */
    sent(courseId: string): RollInColumns {
      const before = kept.get(courseId)
      if (before?.version === course.get(courseId)!.version) return before
      const now = inColumns(courseId)
      kept.set(courseId, now)
      return now
    },
    section(courseId: string, id: string): RollSection | null {
      const row = section.get(id, courseId)
      return row ? toSection(row) : null
    },
    student(courseId: string, id: string): RollStudent | null {
      const row = student.get(id, courseId)
      return row
        ? toStudent(
            row,
            staysOf.all(id).map(([sectionId, from, to]) => ({ sectionId, from, to })),
          )
        : null
    },
    /** Who has a candidate number, whatever its letters' case. */
    holderOf: (courseId: string, candidate: string) => owner.get(courseId, candidate) ?? null,
    addSection(courseId: string, s: SectionFields): string {
      const id = randomUUID()
      insertSection.run(id, courseId, s.code, s.name, s.teacherId, JSON.stringify(s.weekdays), s.firstDay, courseId)
      return id
    },
    editSection(id: string, s: SectionFields): void {
      updateSection.run(s.code, s.name, s.teacherId, JSON.stringify(s.weekdays), s.firstDay, id)
    },
    addStudent(courseId: string, s: StudentFields): string {
      const id = randomUUID()
      insertStudent.run(id, courseId, s.name, s.candidate, s.externalId, s.signIn)
      return id
    },
    editStudent(id: string, s: StudentFields): void {
      updateStudent.run(s.name, s.candidate, s.externalId, s.signIn, id)
    },
    setStays(studentId: string, own: readonly Stay[]): void {
      removeStays.run(studentId)
      for (const s of own) insertStay.run(studentId, s.sectionId, s.from, s.to)
    },
    /** How many were ever in a section. */
    everIn: (sectionId: string) => everIn.get(sectionId)!.n,
    /** How many scripts a student has, blank ones too: a script is never deleted. */
    scriptsOf: (studentId: string) => work.get(studentId)!.n,
    removeSection(id: string): void {
      unplace.run(id)
      removeSection.run(id)
    },
    removeStudent(id: string): void {
      removeStays.run(id)
      removeStudent.run(id)
    },
    setNames(courseId: string, names: boolean): void {
      setNames.run(Number(names), courseId)
    },
  }
}

export type RollQueries = ReturnType<typeof rollQueries>
