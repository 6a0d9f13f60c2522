import { parse } from 'csv-parse/sync'
import { strFromU8, strToU8, zipSync } from 'fflate'
import { FileError, MAX_ROWS } from './delimited'
import { joinedBytes } from './joined-bytes'
import { whyNoCsv } from './separator'
import { csvOf } from './write-delimited'
import { shiftDay, type Day } from '../roll/days'
import { nameParts, type NameParts } from '../roll/name-parts'

/** The line of its file that a row ends on. */
const LINE = Symbol('line')
export type RosterRow = Record<string, string> & { [LINE]?: number }
export const lineOf = (row: RosterRow): number => row[LINE] ?? 0

const MOST = MAX_ROWS * 4

/** A file of an unpacked roster by its base name, since it may lie in a folder. */
export const namedFile = (files: ReadonlyMap<string, Uint8Array>, name: string) =>
  [...files].find(([path]) => path.toLowerCase().split('/').at(-1) === name.toLowerCase())?.[1]

/** The id we write for a student who has none from outside; read back it says nothing. */
export const ownId = (candidate: string) => `candidate-${candidate}`

/** Whether a row says that what it names is no more. */
export const isDeleted = (row: RosterRow): boolean => row.status?.toLowerCase() === 'tobedeleted'

/** The rows of one file of a roster (OneRoster 1.2 CSV), those that are to be deleted left out; the rest as `readAll`. */
export const readSheet = (...of: Parameters<typeof readAll>): RosterRow[] => readAll(...of).filter((r) => !isDeleted(r))

/**
 * The rows of one file of a roster (OneRoster 1.2 CSV).
 * @param whole what such a roster needs, for the message
 * @throws FileError where the file or one of the columns needed is missing, or it is broken off or too long
 */
export function readAll(files: ReadonlyMap<string, Uint8Array>, name: string, needed: readonly string[], whole: string): RosterRow[] {
  const bytes = namedFile(files, name)
  if (!bytes) throw new FileError(`The roster has no ${name}: it needs ${whole}.`, 1, name)
  let rows: RosterRow[]
  try {
    rows = parse(strFromU8(bytes), {
      columns: true,
      bom: true,
      skip_empty_lines: true,
      relax_column_count: true,
      to: MOST + 1,
      on_record: (row: RosterRow, { lines }: { lines: number }) => Object.assign(row, { [LINE]: lines }),
    })
  } catch (e) {
    const { reason, line } = whyNoCsv(e)
    throw new FileError(`${name} in the roster: ${reason}`, line, name)
  }
  if (rows.length > MOST) throw new FileError(`${name} in the roster has more than ${MOST} rows.`, 1, name)
  const lacking = rows[0] ? needed.filter((n) => !(n in rows[0]!)) : []
  if (lacking.length > 0) throw new FileError(`${name} in the roster has no column ${lacking.join(', ')}.`, 1, name)
  return rows
}

/** Columns of the files that we write, in the standard's order; what it has no column for stands in metadata columns. */
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
  'categories.csv': ['sourcedId', 'status', 'dateLastModified', 'title', 'weight'],
  'lineItems.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'title',
    'description',
    'assignDate',
    'dueDate',
    'classSourcedId',
    'categorySourcedId',
    'gradingPeriodSourcedId',
    'resultValueMin',
    'resultValueMax',
    'schoolSourcedId',
  ],
  'results.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'lineItemSourcedId',
    'studentSourcedId',
    'scoreStatus',
    'score',
    'scoreDate',
    'comment',
    'textScore',
    'classSourcedId',
    'inProgress',
    'incomplete',
    'late',
    'missing',
    'metadata.status',
    'metadata.daysLate',
    'metadata.scoreAsMarked',
    'metadata.takenForLateness',
  ],
  'scoreScales.csv': [
    'sourcedId',
    'status',
    'dateLastModified',
    'title',
    'type',
    'orgSourcedId',
    'courseSourcedId',
    'classSourcedId',
    'scoreScaleValue',
  ],
  'lineItemScoreScales.csv': ['sourcedId', 'status', 'dateLastModified', 'lineItemSourcedId', 'scoreScaleSourcedId'],
  'lineItemLearningObjectiveIds.csv': ['sourcedId', 'status', 'dateLastModified', 'lineItemSourcedId', 'source', 'learningObjectiveId'],
  'resultLearningObjectiveIds.csv': ['sourcedId', 'status', 'dateLastModified', 'resultSourcedId', 'source', 'learningObjectiveId'],
} as const

type SheetName = keyof typeof COLUMNS

/** Every file that the standard knows; what is not sent is said to be absent. */
const KNOWN = [
  'academicSessions',
  'categories',
  'classes',
  'classResources',
  'courses',
  'courseResources',
  'demographics',
  'enrollments',
  'lineItemLearningObjectiveIds',
  'lineItems',
  'lineItemScoreScales',
  'orgs',
  'resources',
  'resultLearningObjectiveIds',
  'results',
  'resultScoreScales',
  'roles',
  'scoreScales',
  'userProfiles',
  'userResources',
  'users',
]

/** A course as a roster knows it. */
export interface RosterCourse {
  id: string
  code: string
  title: string
  term: string
  firstDay: Day
  lastDay: Day
}

/** The one organisation that a course of ours belongs to, in every file. */
export const ORG = 'org-1'
export const sessionId = (courseId: string): string => `term-${courseId}`
/** The id by which others know a student: theirs, else one made of the candidate number. */
export const studentId = (externalId: string | null, candidate: string): string => externalId ?? ownId(candidate)

/** How others know the classes, teachers and students of a course: by the ids and names of the roster that they came with. */
export interface RosterNames {
  /** The id of a section. */
  classOf: (sectionId: string) => string
  /** The id of who teaches. */
  teacherOf: (personId: string) => string
  /** A student's name as it came; null where it came in one. */
  partsOf: (studentId: string) => NameParts | null
}
/** Where nothing came with a roster. */
export const OWN_NAMES: RosterNames = { classOf: (id) => id, teacherOf: (id) => `person-${id}`, partsOf: () => null }

/** Somebody as a row of users.csv. */
export const userRow = (sourcedId: string, name: string, kept: NameParts | null, identifier: string, signIn: string | null): RosterRow => {
  const { given, middle, family } = nameParts(name, kept)
  return {
    sourcedId,
    enabledUser: 'true',
    username: signIn ?? sourcedId,
    givenName: given,
    middleName: middle,
    familyName: family,
    identifier,
    primaryOrgSourcedId: ORG,
  }
}

/** Ends are the first day after (OneRoster 1.2, “this date is exclusive”); ours are the last day in. */
export const afterLast = (last: Day): Day => shiftDay(last, 1)

type Put = ReturnType<typeof rosterWriter>['put']

/**
 * The organisation and the term, to which classes and line items refer.
 * @returns `set`: what every line item says of when and where it is set; due before the term begins, it was not assigned after that
 */
export function putFrame(put: Put, course: RosterCourse): { set: (due: Day) => RosterRow } {
  put('orgs.csv', { sourcedId: ORG, name: 'Department', type: 'department' })
  put('academicSessions.csv', {
    sourcedId: sessionId(course.id),
    title: course.term,
    type: 'term',
    startDate: course.firstDay,
    endDate: afterLast(course.lastDay),
    schoolYear: course.lastDay.slice(0, 4),
  })
  return {
    set: (due) => ({
      assignDate: due < course.firstDay ? due : course.firstDay,
      dueDate: due,
      gradingPeriodSourcedId: sessionId(course.id),
      schoolSourcedId: ORG,
    }),
  }
}

/** So many rows are written out together: a large department has a million, which would be long to hold one by one. */
const ROWS_TOGETHER = 5000

/** A sheet as CSV, written out as its rows come. */
function sheetWriter(columns: readonly string[]) {
  let rows: string[][] = [[...columns]]
  const written: Uint8Array[] = []
  const writeOut = () => {
    // Programs read it, and nothing in it is run: it stands as it is.
    written.push(strToU8(csvOf(rows)))
    rows = []
  }
  return {
    put(row: RosterRow): void {
      rows.push(columns.map((c) => row[c] ?? ''))
      if (rows.length >= ROWS_TOGETHER) writeOut()
    },
    whole(): Uint8Array {
      writeOut()
      return joinedBytes(written)
    },
  }
}

/** Writes a roster, bulk, with the files named and a manifest of them. */
export function rosterWriter(names: readonly Exclude<SheetName, 'manifest.csv'>[]) {
  const sheets = new Map((['manifest.csv', ...names] as const).map((n) => [n as SheetName, sheetWriter(COLUMNS[n])]))
  const put = (file: SheetName, row: RosterRow) => sheets.get(file)!.put(row)
  const property = (propertyName: string, value: string) => put('manifest.csv', { propertyName, value })
  property('manifest.version', '1.0')
  property('oneroster.version', '1.2')
  const sent = new Set<string>(names)
  for (const name of KNOWN) property(`file.${name}`, sent.has(`${name}.csv`) ? 'bulk' : 'absent')
  return {
    put,
    pack: (): Uint8Array => zipSync(Object.fromEntries([...sheets].map(([name, sheet]) => [name, sheet.whole()]))),
  }
}
