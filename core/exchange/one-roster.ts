import { parse } from 'csv-parse/sync'
import { stringify } from 'csv-stringify/sync'
import { strFromU8, strToU8, zipSync } from 'fflate'
import { FileError, MAX_ROWS } from './delimited'
import { readRollTable, unquote, type RollFile } from './roll-file'
import { readWeekdays, writeWeekdays } from './weekdays'
import type { WrittenRoll } from './write-roll'

type Row = Record<string, string>

/** The base name of a file in an archive that may lie in a folder. */
const named = (files: ReadonlyMap<string, Uint8Array>, name: string) =>
  [...files].find(([path]) => path.toLowerCase().split('/').at(-1) === name)?.[1]

/** Whether an unpacked archive is a roster in the open format. */
export const isOneRoster = (files: ReadonlyMap<string, Uint8Array>): boolean =>
  !!named(files, 'users.csv') && !!named(files, 'enrollments.csv')

function read(files: ReadonlyMap<string, Uint8Array>, name: string, needed: readonly string[]): Row[] {
  const bytes = named(files, name)
  if (!bytes) throw new FileError(`The roster has no ${name}: it needs users.csv, classes.csv and enrollments.csv.`, 1, name)
  let rows: Row[]
  try {
    rows = parse(strFromU8(bytes), { columns: true, bom: true, skip_empty_lines: true, relax_column_count: true, to: MAX_ROWS * 4 + 1 })
  } catch (e) {
    throw new FileError(`${name} in the roster breaks off or a quotation mark is not closed.`, (e as { lines?: number }).lines ?? 1, name)
  }
  if (rows.length > MAX_ROWS * 4) throw new FileError(`${name} in the roster has more than ${MAX_ROWS * 4} rows.`, 1, name)
  const lacking = rows[0] ? needed.filter((n) => !(n in rows[0]!)) : []
  if (lacking.length > 0) throw new FileError(`${name} in the roster has no column ${lacking.join(', ')}.`, 1, name)
  return rows.filter((r) => r.status !== 'tobedeleted')
}

/** The id we write for a student who has none from outside; read back it says nothing. */
const ownId = (candidate: string) => `candidate-${candidate}`

const STUDENT_HEADER = ['candidate', 'name', 'section', 'section name', 'teacher', 'meets', 'starts', 'external id', 'from', 'to'] as const

/**
 * Reads students, sections, teachers and enrolments of a roster (OneRoster 1.2 CSV). A student's `identifier` is the
 * candidate number and the `sourcedId` the external id; weekdays and first day stand in metadata columns.
 * @throws FileError where a file or a column is missing
 */
export function readOneRoster(files: ReadonlyMap<string, Uint8Array>): RollFile {
  const users = new Map(read(files, 'users.csv', ['sourcedId', 'givenName', 'familyName']).map((u) => [u.sourcedId!, u]))
  const classes = new Map(read(files, 'classes.csv', ['sourcedId', 'title']).map((c) => [c.sourcedId!, c]))
  const enrolments = read(files, 'enrollments.csv', ['classSourcedId', 'userSourcedId', 'role'])
  const nameOf = (u: Row) =>
    [u.givenName, u.middleName, u.familyName]
      .map((n) => n && unquote(n.trim()))
      .filter(Boolean)
      .join(' ')
  const teacherOf = new Map<string, string>()
  for (const e of enrolments)
    if (e.role?.toLowerCase() === 'teacher' && users.has(e.userSourcedId!))
      teacherOf.set(e.classSourcedId!, nameOf(users.get(e.userSourcedId!)!))
  const faults: RollFile['faults'] = []
  const rows: { line: number; cells: string[] }[] = []
  enrolments.forEach((e, i) => {
    if (e.role?.toLowerCase() !== 'student') return
    const line = i + 2
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
          nameOf(user),
          section.classCode || section.sourcedId!,
          section.title ?? '',
          teacherOf.get(section.sourcedId!) ?? '',
          section['metadata.weekdays'] ?? '',
          section['metadata.firstDay'] ?? '',
          user.sourcedId === ownId(user.identifier ?? '') ? '' : user.sourcedId!,
          e.beginDate ?? '',
          e.endDate ?? '',
        ],
      })
  })
  const file = readRollTable({ header: [...STUDENT_HEADER], rows })
  // A class with nobody in it is a section all the same.
  const known = new Set(file.sections.map((s) => s.code.toLowerCase()))
  for (const c of classes.values()) {
    const code = c.classCode || c.sourcedId!
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

const COLUMNS = {
  'manifest.csv': ['propertyName', 'value'],
  'academicSessions.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'title',
    'type',
    'startDate',
    'endDate',
    'parentSourcedId',
    'schoolYear',
  ],
  'orgs.csv': ['sourcedId', 'status', 'dateLastModified', 'name', 'type', 'identifier', 'parentSourcedId'],
  'courses.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'schoolYearSourcedId',
    'title',
    'courseCode',
    'grades',
    'orgSourcedId',
    'subjects',
    'subjectCodes',
  ],
  'classes.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'title',
    'grades',
    'courseSourcedId',
    'classCode',
    'classType',
    'location',
    'schoolSourcedId',
    'termSourcedIds',
    'subjects',
    'subjectCodes',
    'periods',
    'metadata.weekdays',
    'metadata.firstDay',
  ],
  'users.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'enabledUser',
    'username',
    'userIds',
    'givenName',
    'familyName',
    'middleName',
    'identifier',
    'email',
    'sms',
    'phone',
    'agentSourcedIds',
    'grades',
    'password',
    'userMasterIdentifier',
    'resourceSourcedIds',
    'preferredGivenName',
    'preferredMiddleName',
    'preferredFamilyName',
    'primaryOrgSourcedId',
    'pronouns',
  ],
  'roles.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'userSourcedId',
    'roleType',
    'role',
    'beginDate',
    'endDate',
    'orgSourcedId',
    'userProfileSourcedId',
  ],
  'enrollments.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'classSourcedId',
    'schoolSourcedId',
    'userSourcedId',
    'role',
    'primary',
    'beginDate',
    'endDate',
  ],
} as const
const BULK = Object.keys(COLUMNS).filter((n) => n !== 'manifest.csv')
const NOT_SENT = [
  'categories',
  'classResources',
  'courseResources',
  'demographics',
  'lineItemLearningObjectiveIds',
  'lineItems',
  'lineItemScoreScales',
  'resources',
  'resultLearningObjectiveIds',
  'results',
  'resultScoreScales',
  'scoreScales',
  'userProfiles',
  'userResources',
]

export interface RosterCourse {
  id: string
  code: string
  title: string
  term: string
  firstDay: string
  lastDay: string
}

/** A roll as a zipped roster (OneRoster 1.2 CSV, bulk) that reads back as the same. */
export function writeOneRoster(course: RosterCourse, roll: WrittenRoll): Uint8Array {
  const org = 'org-1'
  const session = `term-${course.id}`
  const sheets: Record<string, Row[]> = Object.fromEntries(Object.keys(COLUMNS).map((n) => [n, []]))
  const put = (file: keyof typeof COLUMNS, row: Row) => sheets[file]!.push(row)
  const property = (propertyName: string, value: string) => put('manifest.csv', { propertyName, value })
  property('manifest.version', '1.0')
  property('oneroster.version', '1.2')
  for (const name of BULK) property(`file.${name.replace('.csv', '')}`, 'bulk')
  for (const name of NOT_SENT) property(`file.${name}`, 'absent')
  put('orgs.csv', { sourcedId: org, name: 'Department', type: 'department' })
  put('academicSessions.csv', {
    sourcedId: session,
    title: course.term,
    type: 'term',
    startDate: course.firstDay,
    endDate: course.lastDay,
    schoolYear: course.lastDay.slice(0, 4),
  })
  put('courses.csv', { sourcedId: course.id, title: course.title, courseCode: course.code, orgSourcedId: org })
  const user = (sourcedId: string, name: string, identifier: string, role: 'student' | 'teacher') => {
    const [given, ...rest] = name.split(' ')
    put('users.csv', {
      sourcedId,
      enabledUser: 'true',
      username: sourcedId,
      givenName: given!,
      familyName: rest.join(' '),
      identifier,
      primaryOrgSourcedId: org,
    })
    put('roles.csv', { sourcedId: `role-${sourcedId}`, userSourcedId: sourcedId, roleType: 'primary', role, orgSourcedId: org })
  }
  const enrol = (classId: string, userId: string, role: string, beginDate: string, endDate: string) =>
    put('enrollments.csv', {
      sourcedId: `${classId}-${userId}${beginDate && `-${beginDate}`}`,
      classSourcedId: classId,
      schoolSourcedId: org,
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
      schoolSourcedId: org,
      termSourcedIds: session,
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
    const id = s.externalId ?? ownId(s.candidate)
    user(id, s.name, s.candidate, 'student')
    for (const stay of s.stays) enrol(stay.sectionId, id, 'student', stay.from, stay.to ?? '')
  }
  const files = Object.entries(COLUMNS).map(([name, columns]) => [
    name,
    strToU8(stringify(sheets[name]!, { header: true, columns: [...columns], record_delimiter: 'windows', escape_formulas: true })),
  ])
  return zipSync(Object.fromEntries(files) as Record<string, Uint8Array>)
}
