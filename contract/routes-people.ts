import { z } from 'zod'
import { CourseHead, CourseNamed, Id, inOrder, Role } from './course'
import {
  Account,
  AuditRow,
  Department,
  Email,
  Installation,
  ListedPerson,
  NewPassphrase,
  NewPerson,
  SignInName,
  TriedPeople,
  WayIn,
} from './people'
import { PersonName } from './roll'
import { Erased, Keeping } from './keeping'
import { route } from './route'
import { Self } from './self'

const version = z.number().int()
const onePerson = z.strictObject({ personId: Id })
const Token = z.string().min(20, 'That is not a whole link: copy it again.').max(100)
const inCourse = z.strictObject({ courseId: Id })
const lead = ['lead'] as const

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

const InstalledCourse = CourseHead.omit({ role: true }).extend({
  leads: z.array(z.string()),
  /** From which day on they can be; null where it is not put away. */
  namelessFrom: z.string().nullable(),
  /** Whether it holds no mark and no decision, so that it can be removed. */
  bare: z.boolean(),
})
export type InstalledCourse = z.infer<typeof InstalledCourse>

/** Routes of the installation: coming in, people, own account, the audit list, courses as such. */
export const peopleRoutes = {
  installation: route({
    method: 'GET',
    path: '/api/installation',
    access: 'anyone',
    summary: 'Whose installation it is, and whether it waits to be set up',
    response: Installation,
  }),
  setUp: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/installation',
    access: 'anyone',
    summary: 'Set the installation up, with the code from its console: the first person, who administers it',
    body: z.strictObject({
      code: z.string().trim().min(1, 'Type the code that stands in the console.').max(40),
      department: Department,
      name: PersonName,
      signIn: SignInName,
      email: Email.nullable(),
      passphrase: NewPassphrase,
    }),
    response: Self,
  }),
  lookAtWayIn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/way-in/look',
    access: 'anyone',
    summary: 'Whose one-time link it is',
    body: z.strictObject({ token: Token }),
    response: z.strictObject({ name: z.string(), signIn: z.string(), kind: z.enum(['invitation', 'reset']), department: z.string() }),
  }),
  useWayIn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/way-in',
    access: 'anyone',
    summary: 'Choose a passphrase by a one-time link, and come in',
    body: z.strictObject({ token: Token, passphrase: NewPassphrase }),
    response: Self,
  }),

  account: route({
    method: 'GET',
    path: '/api/account',
    access: 'signed in',
    summary: 'One’s own account, with where one is signed in',
    response: Account,
  }),
  editAccount: route({
    takes: 'a little',
    method: 'PATCH',
    path: '/api/account',
    access: 'signed in',
    summary: 'Change one’s own name or mail address',
    body: z.strictObject({ version, name: PersonName.optional(), email: Email.nullable().optional() }),
    response: Account,
  }),
  changePassphrase: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/account/passphrase',
    access: 'signed in',
    summary: 'Change one’s own passphrase; all other sessions end',
    body: z.strictObject({ old: z.string().min(1, 'Type the one you have now.').max(500), passphrase: NewPassphrase }),
  }),
  endSession: route({
    method: 'DELETE',
    path: '/api/account/sessions/:sessionId',
    access: 'signed in',
    summary: 'End one of one’s own sessions',
    params: z.strictObject({ sessionId: z.string().max(40) }),
  }),
  endOtherSessions: route({
    method: 'DELETE',
    path: '/api/account/sessions',
    access: 'signed in',
    summary: 'End all of one’s own sessions but this one',
  }),

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
    produces: 'text/csv',
  }),

  keeping: route({
    method: 'GET',
    path: '/api/installation/keeping',
    access: 'admin',
    summary: 'The backups there are, and whether the latest is too old',
    response: Keeping,
  }),
  backUp: route({
    method: 'POST',
    path: '/api/installation/keeping',
    access: 'admin',
    summary: 'Make a backup now, checked before it counts',
    response: Keeping,
  }),
  installedCourses: route({
    method: 'GET',
    path: '/api/installation/courses',
    access: 'admin',
    summary: 'All courses with their leads; no marks',
    response: z.array(InstalledCourse),
  }),
  giveLead: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/installation/courses/:courseId/leads',
    access: 'admin',
    summary: 'Give a course a lead',
    params: inCourse,
    body: onePerson,
  }),
  putAway: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/installation/courses/:courseId/away',
    access: 'admin',
    summary: 'Put a course away, so that it can be read and not written, or bring it back',
    params: inCourse,
    body: z.strictObject({ away: z.boolean() }),
  }),
  removeCourse: route({
    method: 'DELETE',
    path: '/api/installation/courses/:courseId',
    access: 'admin',
    summary: 'Remove a course that was made by mistake: only one without marks, scripts and decisions',
    params: inCourse,
  }),

  countNames: route({
    method: 'GET',
    path: '/api/installation/courses/:courseId/names',
    access: 'admin',
    summary: 'How much would be erased if the course were made nameless',
    params: inCourse,
    response: Erased,
  }),
  makeNameless: route({
    method: 'DELETE',
    path: '/api/installation/courses/:courseId/names',
    access: 'admin',
    summary: 'Erase the names, works and remarks of a course that is put away long enough; its figures and decisions stay',
    params: inCourse,
    response: Erased,
  }),

  editCourse: route({
    takes: 'a little',
    method: 'PATCH',
    path: '/api/courses/:courseId',
    access: lead,
    summary: 'Correct a course’s code, title, term and teaching days',
    params: inCourse,
    body: inOrder(CourseNamed),
    response: CourseHead,
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
}
