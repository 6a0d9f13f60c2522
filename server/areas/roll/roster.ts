import type { RosterMatch } from '#core/exchange/roll-file'
import { sameParts, type RollChanges, type RollPerson } from '#core/roll'
import type { Roll } from '#contract'
import { knownByRoster } from '../../kernel/course/roster-ids'
import type { Db } from '../../kernel/db/open'

/** How a roster knows a course's classes, teachers and students. Writes go on inside the caller's transaction. */
export function rosterOf(db: Db) {
  const head = db.prepare<[string], RosterMatch['here']['course']>('SELECT code, title, last_day AS lastDay FROM course WHERE id = ?')
  const notTwice = db.prepare('DELETE FROM roster_class WHERE course_id = ? AND source_id = ?')
  const setClass = db.prepare(
    `INSERT INTO roster_class (section_id, course_id, source_id, roll_file_id) VALUES (?, ?, ?, ?)
     ON CONFLICT (section_id) DO UPDATE SET source_id = excluded.source_id, roll_file_id = excluded.roll_file_id`,
  )
  const setTeacher = db.prepare(
    `INSERT INTO roster_teacher (course_id, person_id, source_id) VALUES (?, ?, ?)
     ON CONFLICT DO UPDATE SET source_id = excluded.source_id`,
  )
  const setName = db.prepare(
    `INSERT INTO roster_name (student_id, given, middle, family)
     SELECT id, ?, ?, ? FROM student WHERE course_id = ? AND candidate = ? COLLATE NOCASE
     ON CONFLICT DO UPDATE SET given = excluded.given, middle = excluded.middle, family = excluded.family`,
  )
  const ofFile = db.prepare('DELETE FROM roster_class WHERE roll_file_id = ?')

  return {
    /** What of a course a roster may mean. */
    here(courseId: string, { sections, students }: Pick<Roll, 'sections' | 'students'>): RosterMatch['here'] {
      const { classes } = knownByRoster(db, courseId)
      return {
        course: head.get(courseId)!,
        classes: sections.flatMap(({ id, code }) => (classes.has(id) ? [{ sourceId: classes.get(id)!, code }] : [])),
        students: students.map(({ candidate, name, externalId }) => ({ candidate, name, externalId })),
      }
    },
    /** Those who may teach, with the ids by which rosters know them. */
    people(courseId: string, { people }: Pick<Roll, 'people'>): RollPerson[] {
      const { teachers } = knownByRoster(db, courseId)
      return people.map((p) => ({ ...p, sourceId: teachers.get(p.id) ?? null }))
    },
    /** What of it is not known yet. */
    unknown(courseId: string, { roster }: Pick<RollChanges, 'roster'>, { sections, students }: Pick<Roll, 'sections' | 'students'>) {
      const { classes, teachers, parts } = knownByRoster(db, courseId)
      const idOf = new Map(sections.map((s) => [s.code.toLowerCase(), s.id]))
      const studentOf = new Map(students.map((s) => [s.candidate.toLowerCase(), s.id]))
      return {
        classes: roster.classes.filter((c) => classes.get(idOf.get(c.code) ?? '') !== c.sourceId),
        teachers: roster.teachers.filter((t) => teachers.get(t.personId) !== t.sourceId),
        names: roster.names.filter((n) => !sameParts(parts.get(studentOf.get(n.candidate.toLowerCase()) ?? ''), n.parts)),
      }
    },
    learn(courseId: string, fileId: string, sectionIds: ReadonlyMap<string, string>, roster: RollChanges['roster']): void {
      for (const { code, sourceId } of roster.classes) {
        notTwice.run(courseId, sourceId)
        setClass.run(sectionIds.get(code)!, courseId, sourceId, fileId)
      }
      for (const { personId, sourceId } of roster.teachers) setTeacher.run(courseId, personId, sourceId)
      for (const { candidate, parts } of roster.names) setName.run(parts.given, parts.middle, parts.family, courseId, candidate)
    },
    /** Classes are no longer known by what a file said of them; names that are not whole again are simply not used. */
    forget: (fileId: string) => void ofFile.run(fileId),
  }
}

export type Roster = ReturnType<typeof rosterOf>
