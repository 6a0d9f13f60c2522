import { readPeople } from '#core/exchange/people-lines'
import { routes, type CoursePerson, type StudentAccess } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { Inviter } from '../../kernel/access/invite'
import { HAS_COME, personQueries, stateOf } from '../../kernel/access/people'

type PersonRow = Omit<CoursePerson, 'state' | 'teaches'> & { teaches: string | null; active: 0 | 1; chosen: 0 | 1 }
interface Found {
  id: string
  name: string
  signIn: string
}

/** Who has which part in a course: markers, externals, leads, and the students of the roll who may see their own work. */
export function coursePeopleRoutes(
  handle: Handle,
  db: Db,
  writes: CourseWrites,
  { audit, invite }: { audit: AuditList; invite: Inviter },
): void {
  const people = personQueries(db)
  const inCourse = db.prepare<[string], PersonRow>(
    `SELECT p.id, p.name, p.sign_in AS signIn, r.role, p.active, ${HAS_COME} AS chosen,
       (SELECT group_concat(s.name, '|') FROM section s WHERE s.course_id = r.course_id AND s.teacher_id = p.id) AS teaches,
       (SELECT count(*) FROM allotment l JOIN assessment a ON a.id = l.assessment_id AND a.away = 0
          LEFT JOIN script x ON x.student_id = l.student_id AND x.assessment_id = l.assessment_id
          LEFT JOIN reading g ON g.script_id = x.id AND g.marker_id = l.marker_id
        WHERE a.course_id = r.course_id AND l.marker_id = p.id AND coalesce(g.state, '') <> 'handed in') AS toRead
     FROM course_role r JOIN person p ON p.id = r.person_id WHERE r.course_id = ? AND r.role <> 'student'
     ORDER BY CASE r.role WHEN 'lead' THEN 0 WHEN 'external' THEN 1 ELSE 2 END, p.name`,
  )
  // A student of whatever course is found by their own lead, on the roll; by another one only who knows their sign-in or address.
  const NOT_A_STUDENT = `NOT (EXISTS (SELECT 1 FROM course_role r WHERE r.person_id = p.id AND r.role = 'student')
     AND NOT EXISTS (SELECT 1 FROM course_role r WHERE r.person_id = p.id AND r.role <> 'student'))`
  const find = db.prepare<{ like: string; courseId: string }, Found>(
    `SELECT p.id, p.name, p.sign_in AS signIn FROM person p WHERE p.active = 1 AND (p.name LIKE @like ESCAPE '!' OR p.sign_in LIKE @like ESCAPE '!')
       AND ${NOT_A_STUDENT}
       AND NOT EXISTS (SELECT 1 FROM course_role r WHERE r.course_id = @courseId AND r.person_id = p.id) ORDER BY p.name LIMIT 20`,
  )
  const exactly = db.prepare<{ text: string }, Found>(
    `SELECT p.id, p.name, p.sign_in AS signIn FROM person p WHERE p.active = 1
       AND (p.sign_in = @text OR p.email = @text COLLATE NOCASE OR (p.name = @text COLLATE NOCASE AND ${NOT_A_STUDENT})) LIMIT 3`,
  )
  const roleOf = db.prepare<[string, string], { role: string }>('SELECT role FROM course_role WHERE course_id = ? AND person_id = ?')
  const leads = db.prepare<[string], { n: number }>(
    "SELECT count(*) AS n FROM course_role r JOIN person p ON p.id = r.person_id AND p.active = 1 WHERE r.course_id = ? AND r.role = 'lead'",
  )
  const setRole = db.prepare(
    'INSERT INTO course_role (course_id, person_id, role) VALUES (?, ?, ?) ON CONFLICT (course_id, person_id) DO UPDATE SET role = excluded.role',
  )
  const takeRole = db.prepare('DELETE FROM course_role WHERE course_id = ? AND person_id = ?')
  const teachesNone = db.prepare('UPDATE section SET teacher_id = NULL WHERE course_id = ? AND teacher_id = ?')

  const list = (courseId: string): CoursePerson[] =>
    inCourse.all(courseId).map(({ teaches, active, chosen, ...p }) => ({
      ...p,
      state: stateOf({ active, chosen }),
      teaches: teaches?.split('|') ?? [],
    }))
  const personOr404 = (id: string) => {
    const found = people.one(id)
    if (!found) throw new HttpProblem(404, 'There is no such person here.')
    return found
  }

  handle(routes.coursePeople, ({ params: { courseId } }) => list(courseId))

  handle(routes.findPeople, ({ params: { courseId, words } }) => find.all({ courseId, like: `%${words.replace(/[!%_]/g, '!$&')}%` }))

  handle(routes.tryCoursePeople, ({ params: { courseId }, body: { text } }) =>
    text.split(/\r?\n/).flatMap((raw, i) => {
      const words = raw.trim()
      if (words === '') return []
      const [listed] = readPeople(words)
      const tries = [words, ...(listed && 'person' in listed ? [listed.person.signIn, listed.person.email ?? ''] : [])]
      const found = tries.map((t) => exactly.all({ text: t })).find((f) => f.length > 0) ?? []
      const here = found.length === 1 ? roleOf.get(courseId, found[0]!.id)?.role : undefined
      const why =
        found.length === 0
          ? 'Nobody here has that name, sign-in or address: who administers the installation can add them.'
          : found.length > 1
            ? 'Several people have that name: give the sign-in.'
            : here
              ? `Is ${here} here already.`
              : null
      return [{ line: i + 1, text: words.slice(0, 200), person: why === null ? found[0]! : null, why }]
    }),
  )

  handle(routes.setRole, ({ params: { courseId, personId }, body: { role }, me }) => {
    const person = personOr404(personId)
    const before = roleOf.get(courseId, personId)?.role
    if (person.state === 'inactive') throw new HttpProblem(422, `${person.name} is not active.`, { field: 'personId' })
    if (before === 'student') throw new HttpProblem(409, `${person.name} is a student of this course.`)
    writes.write(courseId, () => {
      setRole.run(courseId, personId, role)
      if (leads.get(courseId)!.n === 0) throw new HttpProblem(409, 'A course needs a lead: make somebody else lead first.')
      audit.note({ kind: 'role changed', by: me.id, about: personId, courseId, words: before ? `${before} → ${role}` : role })
    })
    return list(courseId)
  })

  handle(routes.takeRole, ({ params: { courseId, personId }, me }) => {
    const person = list(courseId).find((p) => p.id === personId)
    if (!person) throw new HttpProblem(404, 'They have no part in this course.')
    if (person.toRead > 0)
      throw new HttpProblem(
        409,
        `${person.toRead} scripts are shared out to ${person.name} and not handed in: share them out to others first (Mark, Sharing out).`,
      )
    writes.write(courseId, () => {
      takeRole.run(courseId, personId)
      teachesNone.run(courseId, personId)
      if (leads.get(courseId)!.n === 0) throw new HttpProblem(409, 'The last lead cannot leave: make somebody else lead first.')
      audit.note({ kind: 'role changed', by: me.id, about: personId, courseId, words: `${person.role} taken away` })
    })
    return list(courseId)
  })

  const students = db.prepare<
    [string],
    {
      studentId: string
      name: string
      externalId: string | null
      signIn: string | null
      personId: string | null
      active: 0 | 1 | null
      chosen: 0 | 1 | null
    }
  >(
    `SELECT s.id AS studentId, s.name, s.external_id AS externalId, s.sign_in AS signIn, s.person_id AS personId, p.active, ${HAS_COME} AS chosen
     FROM student s LEFT JOIN person p ON p.id = s.person_id WHERE s.course_id = ?
       AND EXISTS (SELECT 1 FROM enrolment e WHERE e.student_id = s.id AND e.to_day IS NULL) ORDER BY s.name, s.id`,
  )
  const tie = db.prepare('UPDATE student SET person_id = ? WHERE id = ?')
  const tied = db.prepare<[string, string], { name: string }>('SELECT name FROM student WHERE course_id = ? AND person_id = ?')

  const access = (courseId: string): StudentAccess[] =>
    students.all(courseId).map((s) => ({
      studentId: s.studentId,
      name: s.name,
      signIn: s.signIn ?? s.externalId,
      state: s.personId === null ? 'none' : stateOf({ active: s.active!, chosen: s.chosen! }),
    }))
  handle(routes.studentAccess, ({ params: { courseId } }) => access(courseId))

  handle(routes.giveStudentsAccess, async ({ params: { courseId }, body: { studentIds }, me }) => {
    const wanted = new Set(studentIds)
    const externalIds = new Map(students.all(courseId).map((s) => [s.studentId, s.externalId]))
    const given = access(courseId).filter((s) => wanted.has(s.studentId) && s.state === 'none')
    let known = 0
    const invited = writes.write(courseId, () =>
      given.flatMap((s) => {
        if (s.signIn === null)
          throw new HttpProblem(
            422,
            `${s.name} has no sign-in, mail address or external id on the roll to come in by: bring one in with the roll. Nobody was let in.`,
          )
        const there = people.bySignIn(s.signIn)
        const other = there && tied.get(courseId, there.id)
        if (there && (other || roleOf.get(courseId, there.id)))
          throw new HttpProblem(
            409,
            `${s.signIn} is the sign-in of ${there.name}, who has a part in this course already. Nobody was let in.`,
          )
        const id = there?.id ?? crypto.randomUUID()
        if (there) known++
        else
          people.insert(id, {
            name: s.name,
            signIn: s.signIn,
            email: s.signIn.includes('@') ? s.signIn : null,
            externalId: externalIds.get(s.studentId) ?? null,
          })
        tie.run(id, s.studentId)
        setRole.run(courseId, id, 'student')
        audit.note({ kind: 'role changed', by: me.id, about: id, courseId, words: 'student' })
        return there ? [] : [invite.make(id, me)]
      }),
    )
    const sent = await invite.send(invited)
    return { invited: invited.length, known, sent: sent.filter((w) => w.sent === true).length }
  })
}
