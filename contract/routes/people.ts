import { Id, Role } from '../course'
import { AuditRow, Email, ListedPerson, NewPerson, SignInName, TriedPeople, WayIn } from '../people'
import { PersonName } from '../roll'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { Person, inCourse, lead, onePerson, overseers, staff, version } from './common'

/** Somebody's part in a course. */
const CoursePerson = z.strictObject({
  id: Id,
  name: z.string(),
  signIn: z.string(),
  role: Role.exclude(['student']),
  state: z.enum(['invited', 'in', 'inactive']),
  /** Sections they teach here. */
  teaches: z.array(z.string()),
  /** Scripts that they still have to read. */
  toRead: z.number().int(),
})
export type CoursePerson = z.infer<typeof CoursePerson>

const FoundPerson = z.strictObject({ id: Id, name: z.string(), signIn: z.string() })

/** A student of the roll and how they would come in. */
const StudentAccess = z.strictObject({
  studentId: Id,
  name: z.string(),
  /** None yet, invited, or in. */
  state: z.enum(['none', 'invited', 'in', 'inactive']),
  /** What the roll knows of them to sign in by. */
  signIn: z.string().nullable(),
})
export type StudentAccess = z.infer<typeof StudentAccess>

export const peopleRoutes = {
  people: route({
    method: 'GET',
    path: '/api/people',
    access: 'admin',
    summary: 'Everybody of the installation, with state and roles; no marks',
    response: z.array(ListedPerson),
  }),
  tryPeople: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/people/try',
    access: 'admin',
    summary: 'What a list of people would add, line by line; changes nothing',
    body: z.strictObject({ text: z.string().min(1, 'There is nothing in it.').max(1_000_000, 'The list is over 1 MB.') }),
    response: TriedPeople,
  }),
  addPeople: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/people',
    access: 'admin',
    summary: 'Add people, all of them or none, each invited by a one-time link',
    body: z.strictObject({ people: z.array(NewPerson).min(1).max(5000) }),
    response: z.array(WayIn),
  }),
  removePeople: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/people/take-back',
    access: 'admin',
    summary: 'Take back people that were added and have not come in, nor got a role: all of them or none',
    body: z.strictObject({ personIds: z.array(Id).min(1).max(5000) }),
  }),
  editPerson: route({
    takes: 'a little',
    method: 'PATCH',
    path: '/api/people/:personId',
    access: 'admin',
    summary: 'Change a person, let them administer, deactivate them (their sessions end at once) or bring them back',
    params: onePerson,
    body: z.strictObject({
      version,
      name: PersonName.optional(),
      signIn: SignInName.optional(),
      email: Email.nullable().optional(),
      admin: z.boolean().optional(),
      active: z.boolean().optional(),
    }),
    response: ListedPerson,
  }),
  makeWayIn: route({
    method: 'POST',
    path: '/api/people/:personId/way-in',
    access: 'admin',
    summary: 'Invite anew, or reset a passphrase: a one-time link in place of any before it; their sessions end',
    params: onePerson,
    response: WayIn,
  }),
  audit: route({
    method: 'GET',
    path: '/api/audit',
    access: 'admin',
    summary: 'What happened to the installation, the latest first, at most 2000; no marks',
    response: z.array(AuditRow),
  }),
  auditCsv: route({
    method: 'GET',
    path: '/api/audit.csv',
    access: 'admin',
    summary: 'The audit list as CSV, at most the latest 100,000',
    produces: MEDIA_TYPES.csv,
  }),
  coursePeople: route({
    method: 'GET',
    path: '/api/courses/:courseId/people',
    access: ['lead', 'external'],
    summary: 'Who has which part in the course; students are on the roll',
    params: inCourse,
    response: z.array(CoursePerson),
  }),
  findPeople: route({
    method: 'GET',
    path: '/api/courses/:courseId/people/find/:words',
    access: lead,
    summary: 'People of the installation by name or sign-in, at most 20; those with a part in the course are left out',
    params: z.strictObject({ courseId: Id, words: z.string().trim().min(1).max(100) }),
    response: z.array(FoundPerson),
  }),
  tryCoursePeople: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/people/try',
    access: lead,
    summary: 'Whom pasted names, sign-ins or addresses mean, line by line; changes nothing',
    params: inCourse,
    body: z.strictObject({ text: z.string().min(1).max(12_000, 'At most some hundred lines at once.') }),
    response: z.array(
      z.strictObject({ line: z.number().int(), text: z.string(), person: FoundPerson.nullable(), why: z.string().nullable() }),
    ),
  }),
  setRole: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/people/:personId',
    access: lead,
    summary: 'Give somebody a part in the course, or another one',
    params: inCourse.extend({ personId: Id }),
    body: z.strictObject({ role: Role.exclude(['student']) }),
    response: z.array(CoursePerson),
  }),
  takeRole: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/people/:personId',
    access: lead,
    summary: 'Take somebody’s part in the course away; what they did stays. Not the last lead’s, nor while scripts wait for them',
    params: inCourse.extend({ personId: Id }),
    response: z.array(CoursePerson),
  }),
  studentAccess: route({
    method: 'GET',
    path: '/api/courses/:courseId/student-access',
    access: lead,
    summary: 'Which students can see their own work, and by what the others could come in',
    params: inCourse,
    response: z.array(StudentAccess),
  }),
  giveStudentsAccess: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/student-access',
    access: lead,
    summary: 'Let students of the roll see their own work: each is invited by a one-time link; all of them or none',
    params: inCourse,
    body: z.strictObject({ studentIds: z.array(Id).min(1).max(20_000) }),
    response: z.strictObject({ invited: z.number().int(), known: z.number().int(), sent: z.number().int() }),
  }),
  markers: route({
    method: 'GET',
    path: '/api/courses/:courseId/markers',
    access: overseers,
    summary: 'Who marks in the course',
    params: inCourse,
    response: z.array(Person),
  }),
  look: route({
    method: 'POST',
    path: '/api/courses/:courseId/looks',
    access: lead,
    summary: 'See the course as a marker sees it, read only, until one looks back; recorded',
    params: inCourse,
    body: z.strictObject({ personId: Id }),
  }),
  lookBack: route({
    method: 'DELETE',
    path: '/api/look',
    access: 'signed in',
    summary: 'See everything as oneself again',
    mayWhileLooking: true,
  }),
  looks: route({
    method: 'GET',
    path: '/api/courses/:courseId/looks',
    access: staff,
    summary: 'Who looked at the course as whom, and when; to a marker, who looked as they',
    params: inCourse,
    response: z.array(z.strictObject({ by: z.string(), as: z.string(), at: z.string(), endedAt: z.string().nullable() })),
  }),
}
