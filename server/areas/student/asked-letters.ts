import type { Question } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { letterSender, Sender } from '../../kernel/letters'

interface Person {
  id: string
  name: string
  signIn: string
  email: string | null
}
const PERSON = 'p.id, p.name, p.sign_in AS signIn, p.email'

/** Letters of what is asked about marks: to whoever teaches the section and leads the course, and back to who asked. */
export function askedLetters(db: Db, send: ReturnType<typeof letterSender>) {
  const course = db.prepare<[string], { code: string; title: string; names: number }>(
    'SELECT code, title, names_to_markers AS names FROM course WHERE id = ?',
  )
  const reached = db.prepare<[{ course: string; student: string }], Person & { leads: number }>(
    `SELECT ${PERSON}, r.role = 'lead' AS leads FROM course_role r JOIN person p ON p.id = r.person_id
     WHERE r.course_id = @course AND p.active = 1 AND (r.role = 'lead' OR p.id = (
       SELECT c.teacher_id FROM enrolment e JOIN section c ON c.id = e.section_id WHERE e.student_id = @student AND e.to_day IS NULL))`,
  )
  const student = db.prepare<[string], Partial<Person> & { called: string; candidate: string }>(
    `SELECT ${PERSON}, s.name AS called, s.candidate FROM student s LEFT JOIN person p ON p.id = s.person_id WHERE s.id = ?`,
  )
  const script = db.prepare<[string, string], string>('SELECT id FROM script WHERE assessment_id = ? AND student_id = ?').pluck()
  return {
    scriptOf: (assessmentId: string, studentId: string): string => script.get(assessmentId, studentId)!,
    async asked(
      courseId: string,
      { studentId, assessment, about, reason }: { studentId: string; assessment: string; about: string | null; reason: string },
      from: Sender,
    ): Promise<void> {
      const { code, title, names } = course.get(courseId)!
      const { called, candidate } = student.get(studentId)!
      await send(
        courseId,
        from,
        reached.all({ course: courseId, student: studentId }).map((to) => {
          const who = to.leads || names ? called : candidate
          return {
            to,
            toId: to.id,
            subject: `${code}: ${who} asks about ${assessment}`,
            body: `${to.name},\n\n${who} asks about the mark in ${assessment}${about ? `, ${about}` : ''} (${code} ${title}):\n\n${reason}\n\nIt is answered at ${to.leads ? 'Reconcile' : 'Mark'}, asked by students.`,
          }
        }),
      )
    },
    async answered(courseId: string, q: Question, words: string, from: Sender): Promise<void> {
      const { code, title } = course.get(courseId)!
      const { id, name, signIn, email } = student.get(q.studentId)!
      if (id === undefined) return
      await send(courseId, from, [
        {
          to: { name: name!, signIn: signIn!, email: email ?? null },
          toId: id,
          subject: `${code}: what you asked about ${q.assessment} is answered`,
          body: `${name},\n\nyou asked about ${q.assessment}${q.about ? `, ${q.about}` : ''} in ${code} ${title}:\n\n${q.reason}\n\n${words}\n\n${from.name}`,
        },
      ])
    },
  }
}
