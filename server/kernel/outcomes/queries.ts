import { randomUUID } from 'node:crypto'
import { group } from 'd3-array'
import type { PeopleGroup, TypedEvidence } from '#contract'
import { now, type Db } from '../db/open'
import { writing } from '../db/transactions'

interface Typed {
  courseId: string
  outcomeId: string
  studentId: string
  level: number
  day: string
  note: string
  byId: string
}

/** Plain SQL of what a course knows of its outcomes, and of groups that are kept. */
export function outcomeQueries(db: Db) {
  const shown = db.prepare<[string], string>('SELECT outcome_id FROM outcome_shown WHERE course_id = ?').pluck()
  const show = db.prepare('INSERT OR IGNORE INTO outcome_shown (course_id, outcome_id, by_id, at) VALUES (?, ?, ?, ?)')
  const hide = db.prepare('DELETE FROM outcome_shown WHERE course_id = ? AND outcome_id = ?')
  const judgements = db.prepare<[string], { assessmentId: string; outcomeId: string }>(
    `SELECT j.assessment_id AS assessmentId, j.outcome_id AS outcomeId FROM outcome_judgement j
     JOIN assessment a ON a.id = j.assessment_id WHERE a.course_id = ? AND a.away = 0 ORDER BY a.position`,
  )
  const dropJudgements = db.prepare(
    'DELETE FROM outcome_judgement WHERE outcome_id = ? AND assessment_id IN (SELECT id FROM assessment WHERE course_id = ?)',
  )
  const addJudgement = db.prepare('INSERT INTO outcome_judgement (assessment_id, outcome_id) VALUES (?, ?)')
  const COLUMNS = `e.id, e.outcome_id AS outcomeId, e.student_id AS studentId, e.level, e.day, e.note, p.name AS "by", e.at`
  const typed = db.prepare<[string], TypedEvidence>(
    `SELECT ${COLUMNS} FROM typed_evidence e JOIN person p ON p.id = e.by_id WHERE e.course_id = ? AND e.taken_back_at IS NULL ORDER BY e.at, e.rowid`,
  )
  const typedOf = db.prepare<[string, string], TypedEvidence>(
    `SELECT ${COLUMNS} FROM typed_evidence e JOIN person p ON p.id = e.by_id
     WHERE e.course_id = ? AND e.student_id = ? AND e.taken_back_at IS NULL ORDER BY e.at, e.rowid`,
  )
  const one = db.prepare<[string], TypedEvidence>(`SELECT ${COLUMNS} FROM typed_evidence e JOIN person p ON p.id = e.by_id WHERE e.id = ?`)
  const insert = db.prepare(
    `INSERT INTO typed_evidence (id, course_id, outcome_id, student_id, level, day, note, by_id, at)
     VALUES (@id, @courseId, @outcomeId, @studentId, @level, @day, @note, @byId, @at)`,
  )
  const takeBack = db.prepare(
    'UPDATE typed_evidence SET taken_back_at = ? WHERE id = ? AND course_id = ? AND outcome_id = ? AND taken_back_at IS NULL',
  )
  const groups = db.prepare<[string], Omit<PeopleGroup, 'studentIds'>>(
    `SELECT g.id, g.name, p.name AS "by", g.at FROM kept_group g JOIN person p ON p.id = g.by_id WHERE g.course_id = ? ORDER BY g.name COLLATE NOCASE`,
  )
  const members = db.prepare<[string], { groupId: string; studentId: string }>(
    `SELECT m.group_id AS groupId, m.student_id AS studentId FROM kept_group_student m JOIN kept_group g ON g.id = m.group_id WHERE g.course_id = ?`,
  )
  const addGroup = db.prepare('INSERT INTO kept_group (id, course_id, name, by_id, at) VALUES (?, ?, ?, ?, ?)')
  const addMember = db.prepare('INSERT OR IGNORE INTO kept_group_student (group_id, student_id) VALUES (?, ?)')
  const dropGroup = db.prepare('DELETE FROM kept_group WHERE id = ? AND course_id = ?')

  return {
    shown: (courseId: string): ReadonlySet<string> => new Set(shown.all(courseId)),
    judgements: (courseId: string) => judgements.all(courseId),
    typed: (courseId: string) => typed.all(courseId),
    /** Of one student. */
    typedOf: (courseId: string, studentId: string) => typedOf.all(courseId, studentId),
    set: (courseId: string, outcomeId: string, to: { shown: boolean; judgements: readonly string[] }, byId: string) =>
      writing(db, () => {
        if (to.shown) show.run(courseId, outcomeId, byId, now())
        else hide.run(courseId, outcomeId)
        dropJudgements.run(outcomeId, courseId)
        for (const id of new Set(to.judgements)) addJudgement.run(id, outcomeId)
      }),
    type(of: Typed): TypedEvidence {
      const id = randomUUID()
      insert.run({ ...of, id, at: now() })
      return one.get(id)!
    },
    /** Whether there was such a one that still counted. */
    takeBack: (courseId: string, outcomeId: string, id: string): boolean => takeBack.run(now(), id, courseId, outcomeId).changes > 0,
    groups(courseId: string): PeopleGroup[] {
      const of = group(members.all(courseId), (m) => m.groupId)
      return groups.all(courseId).map((g) => ({ ...g, studentIds: (of.get(g.id) ?? []).map((m) => m.studentId) }))
    },
    keepGroup: (courseId: string, name: string, studentIds: readonly string[], byId: string): string =>
      writing(db, () => {
        const id = randomUUID()
        addGroup.run(id, courseId, name, byId, now())
        for (const s of studentIds) addMember.run(id, s)
        return id
      }),
    dropGroup: (courseId: string, id: string): boolean => dropGroup.run(id, courseId).changes > 0,
  }
}
