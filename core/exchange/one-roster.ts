import { rollup } from 'd3-array'
import { shiftDay } from '../roll/days'
import { guarded } from './guard'
import { readRollTable, type RollFile } from './roll-file'
import {
  afterLast,
  lineOf,
  namedFile,
  ORG,
  ownId,
  putFrame,
  readSheet,
  rosterWriter,
  sessionId,
  studentId,
  type RosterCourse,
  type RosterRow,
} from './roster-files'
import { isSignIn } from '../roll/sign-in'
import { readWeekdays, writeWeekdays } from './weekdays'
import { ROLL_HEADER, type WrittenRoll } from './write-roll'

/** Whether an unpacked archive is a roster in the open format. */
export const isOneRoster = (files: ReadonlyMap<string, Uint8Array>): boolean =>
  !!namedFile(files, 'users.csv') && !!namedFile(files, 'enrollments.csv')

const WHOLE = 'users.csv, classes.csv and enrollments.csv'

/** By what somebody of a roster comes in: their user name, where it says more than their id; else their mail address. */
const signInOf = ({ sourcedId, username = '', email = '' }: RosterRow): string =>
  [username === sourcedId ? '' : username, email].find((text) => text !== '' && isSignIn(text)) ?? ''

/**
 * Reads students, sections, teachers and enrolments of a roster (OneRoster 1.2 CSV). A student's `identifier` is the
 * candidate number and the `sourcedId` the external id; weekdays and first day stand in metadata columns.
 * @throws FileError where a file or a column is missing
 */
export function readOneRoster(files: ReadonlyMap<string, Uint8Array>): RollFile {
  const users = new Map(readSheet(files, 'users.csv', ['sourcedId', 'givenName', 'familyName'], WHOLE).map((u) => [u.sourcedId!, u]))
  const classes = new Map(readSheet(files, 'classes.csv', ['sourcedId', 'title'], WHOLE).map((c) => [c.sourcedId!, c]))
  const enrolments = readSheet(files, 'enrollments.csv', ['classSourcedId', 'userSourcedId', 'role'], WHOLE)
  const nameOf = (u: RosterRow) =>
    [u.givenName, u.middleName, u.familyName]
      .map((n) => n?.trim())
      .filter(Boolean)
      .join(' ')
  const teacherOf = new Map<string, string>()
  for (const e of enrolments)
    if (e.role?.toLowerCase() === 'teacher' && users.has(e.userSourcedId!))
      teacherOf.set(e.classSourcedId!, nameOf(users.get(e.userSourcedId!)!))
  // A class is what its id says; where two share a code they stay two, each known by its id.
  const codes = rollup(
    [...classes.values()],
    (same) => same.length,
    (c) => c.classCode?.toLowerCase() ?? '',
  )
  const codeOf = (c: RosterRow) => (c.classCode && codes.get(c.classCode.toLowerCase()) === 1 ? c.classCode : c.sourcedId!)
  const ends = new Map(
    (namedFile(files, 'academicSessions.csv') ? readSheet(files, 'academicSessions.csv', ['sourcedId', 'endDate'], WHOLE) : []).map((s) => [
      s.sourcedId!,
      s.endDate!,
    ]),
  )
  /** The last day in a class, both ends being exclusive in a roster; none where it lasts to the end of the term, which is no withdrawal. */
  const lastDayOf = ({ endDate = '' }: RosterRow, section: RosterRow): string => {
    const end = (section.termSourcedIds ?? '')
      .split(',')
      .flatMap((id) => ends.get(id.trim()) ?? [])
      .sort()
      .at(-1)
    return endDate === '' || (end !== undefined && endDate >= end)
      ? ''
      : /^\d{4}-\d{2}-\d{2}$/.test(endDate)
        ? shiftDay(endDate, -1)
        : endDate
  }
  const faults: RollFile['faults'] = []
  const rows: { line: number; cells: string[] }[] = []
  enrolments.forEach((e) => {
    if (e.role?.toLowerCase() !== 'student') return
    const line = lineOf(e)
    const [user, section] = [users.get(e.userSourcedId!), classes.get(e.classSourcedId!)]
    const refuse = (column: string, reason: string) =>
      faults.push({ line, column: `enrollments.csv ${column}`, candidate: '', name: user ? nameOf(user) : '', reason })
    if (!user) refuse('userSourcedId', `No user in users.csv has the id ${e.userSourcedId?.slice(0, 40)}.`)
    else if (!section) refuse('classSourcedId', `No class in classes.csv has the id ${e.classSourcedId?.slice(0, 40)}.`)
    else
      rows.push({
        line,
        cells: [
          user.identifier ?? '',
          // A roster says what it is: nothing in it is taken for a formula.
          guarded(nameOf(user)),
          codeOf(section),
          section.title ?? '',
          teacherOf.get(section.sourcedId!) ?? '',
          section['metadata.weekdays'] ?? '',
          section['metadata.firstDay'] ?? '',
          user.sourcedId === ownId(user.identifier ?? '') ? '' : user.sourcedId!,
          guarded(signInOf(user)),
          e.beginDate ?? '',
          lastDayOf(e, section),
        ],
      })
  })
  const file = readRollTable({ header: [...ROLL_HEADER], rows })
  // A class with nobody in it is a section all the same.
  const known = new Set(file.sections.map((s) => s.code.toLowerCase()))
  for (const c of classes.values()) {
    const code = codeOf(c)
    if (known.has(code.toLowerCase())) continue
    const firstDay = c['metadata.firstDay'] || null
    file.sections.push({
      code,
      name: c.title || null,
      teacher: teacherOf.get(c.sourcedId!) ?? null,
      weekdays: readWeekdays(c['metadata.weekdays'] ?? ''),
      firstDay,
    })
  }
  return { ...file, columns: {}, faults: [...faults, ...file.faults] }
}

const SHEETS = ['academicSessions.csv', 'orgs.csv', 'courses.csv', 'classes.csv', 'users.csv', 'roles.csv', 'enrollments.csv'] as const

/** A roll as a zipped roster (OneRoster 1.2 CSV, bulk) that reads back as the same. */
export function writeOneRoster(course: RosterCourse, roll: WrittenRoll): Uint8Array {
  const { put, pack } = rosterWriter(SHEETS)
  putFrame(put, course)
  put('courses.csv', { sourcedId: course.id, title: course.title, courseCode: course.code, orgSourcedId: ORG })
  const user = (sourcedId: string, name: string, identifier: string, role: 'student' | 'teacher', signIn: string | null = null) => {
    const [given, ...rest] = name.split(' ')
    put('users.csv', {
      sourcedId,
      enabledUser: 'true',
      username: signIn ?? sourcedId,
      givenName: given!,
      familyName: rest.join(' '),
      identifier,
      primaryOrgSourcedId: ORG,
    })
    put('roles.csv', { sourcedId: `role-${sourcedId}`, userSourcedId: sourcedId, roleType: 'primary', role, orgSourcedId: ORG })
  }
  const enrol = (classId: string, userId: string, role: string, beginDate: string, endDate: string) =>
    put('enrollments.csv', {
      sourcedId: `${classId}-${userId}${beginDate && `-${beginDate}`}`,
      classSourcedId: classId,
      schoolSourcedId: ORG,
      userSourcedId: userId,
      role,
      primary: String(role === 'teacher'),
      beginDate,
      endDate,
    })
  const teachers = new Map<string, string>()
  for (const s of roll.sections) {
    put('classes.csv', {
      sourcedId: s.id,
      title: s.name,
      courseSourcedId: course.id,
      classCode: s.code,
      classType: 'scheduled',
      schoolSourcedId: ORG,
      termSourcedIds: sessionId(course.id),
      'metadata.weekdays': writeWeekdays(s.weekdays),
      'metadata.firstDay': s.firstDay ?? '',
    })
    if (s.teacher === null) continue
    if (!teachers.has(s.teacher)) {
      teachers.set(s.teacher, `teacher-${teachers.size + 1}`)
      user(teachers.get(s.teacher)!, s.teacher, '', 'teacher')
    }
    enrol(s.id, teachers.get(s.teacher)!, 'teacher', '', '')
  }
  for (const s of roll.students) {
    const id = studentId(s.externalId, s.candidate)
    user(id, s.name, s.candidate, 'student', s.signIn)
    for (const stay of s.stays) enrol(stay.sectionId, id, 'student', stay.from, stay.to === null ? '' : afterLast(stay.to))
  }
  return pack()
}
