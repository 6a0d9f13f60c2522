import type { z } from 'zod'
import { readPeople } from '#core/exchange/people-lines'
import { routes, type CoursePerson, type StudentAccess } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { inTurns } from '../../kernel/in-turns'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { Inviter } from '../../kernel/access/invite'
import { personQueries, stateOf } from '../../kernel/access/people'
import { coursePeopleQueries } from './queries'

/** Lines that are looked up before others are answered. */
const LINES_A_TURN = 50

type TriedCoursePerson = z.input<typeof routes.tryCoursePeople.response>[number]

/** Who has which part in a course: markers, externals, leads, and the students of the roll who may see their own work. */
export function coursePeopleRoutes(
  handle: Handle,
  db: Db,
  writes: CourseWrites,
  { audit, invite }: { audit: AuditList; invite: Inviter },
): void {
  const people = personQueries(db)
  const { inCourse, toRead, find, exactly, roleOf, leads, setRole, takeRole, teachesNone, students, tie, tied } = coursePeopleQueries(db)

  function* counted(courseId: string): Generator<void, CoursePerson[]> {
    const list: CoursePerson[] = []
    for (const { teaches, active, chosen, ...p } of inCourse.all(courseId)) {
      const state = stateOf({ active, chosen })
      list.push({ ...p, state, teaches: teaches?.split('|') ?? [], toRead: toRead.get(courseId, p.id)! })
      yield
    }
    return list
  }
  /** What each has still to read is counted over everything shared out: one person a turn. */
  const list = (courseId: string) => inTurns(counted(courseId))
  const personOr404 = (id: string) => {
    const found = people.one(id)
    if (!found) throw new HttpProblem(404, 'There is no such person here.')
    return found
  }

  handle(routes.coursePeople, ({ params: { courseId } }) => list(courseId))

  handle(routes.findPeople, ({ params: { courseId, words } }) => find.all({ courseId, like: `%${words.replace(/[!%_]/g, '!$&')}%` }))

  function* tryLines(courseId: string, text: string): Generator<void, TriedCoursePerson[]> {
    const tried: TriedCoursePerson[] = []
    for (const [i, raw] of text.split(/\r?\n/).entries()) {
      const words = raw.trim()
      if (words === '') continue
      if (tried.length % LINES_A_TURN === LINES_A_TURN - 1) yield
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
      tried.push({ line: i + 1, text: words.slice(0, 200), person: why === null ? found[0]! : null, why })
    }
    return tried
  }
  handle(routes.tryCoursePeople, ({ params: { courseId }, body: { text } }) => inTurns(tryLines(courseId, text)))

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
    const person = inCourse.all(courseId).find((p) => p.id === personId)
    if (!person) throw new HttpProblem(404, 'They have no part in this course.')
    const waiting = toRead.get(courseId, personId)!
    if (waiting > 0)
      throw new HttpProblem(
        409,
        `${waiting} scripts are shared out to ${person.name} and not handed in: share them out to others first (Mark, Sharing out).`,
      )
    writes.write(courseId, () => {
      takeRole.run(courseId, personId)
      teachesNone.run(courseId, personId)
      if (leads.get(courseId)!.n === 0) throw new HttpProblem(409, 'The last lead cannot leave: make somebody else lead first.')
      audit.note({ kind: 'role changed', by: me.id, about: personId, courseId, words: `${person.role} taken away` })
    })
    return list(courseId)
  })

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
