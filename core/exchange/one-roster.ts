import { group, rollup } from 'd3-array'
import { shiftDay } from '../roll/days'
import { namePart, wholeName, type NameParts } from '../roll/name-parts'
import { guarded } from './guard'
import { readRollTable, type FileSection, type RollEntry, type RollFile, type RosterMatch } from './roll-file'
import { FileError } from './delimited'
import { rosterClasses } from './roster-classes'
import { isDeleted, lineOf, namedFile, ownId, readAll, readSheet, studentId, type RosterRow } from './roster-files'
import { isSignIn } from '../roll/sign-in'
import { readWeekdays } from './weekdays'
import { ROLL_HEADER } from './write-roll'

type Files = ReadonlyMap<string, Uint8Array>

/** Whether an unpacked archive is a roster in the open format; one of changes may hold enrolments or users alone. */
export const isOneRoster = (files: Files): boolean =>
  !!namedFile(files, 'enrollments.csv') || (!!namedFile(files, 'users.csv') && !namedFile(files, 'results.csv'))

const WHOLE = 'users.csv, classes.csv and enrollments.csv'
const NOTHING_HERE: RosterMatch['here'] = { course: { code: '', title: '' }, classes: [], students: [] }

/** By what somebody of a roster comes in: their user name, where it says more than their id; else their mail address. */
const signInOf = ({ sourcedId, username = '', email = '' }: RosterRow): string =>
  [username === sourcedId ? '' : username, email].find((text) => text !== '' && isSignIn(text)) ?? ''

const partsOf = (u: RosterRow): NameParts => ({
  given: namePart(u.givenName),
  middle: namePart(u.middleName),
  family: namePart(u.familyName),
})

/** Whether it says only what changed since another one: its manifest does, or what is not in it must be known here. */
function saysChanges(files: Files, classesHere: boolean): boolean {
  const manifest = namedFile(files, 'manifest.csv') ? readSheet(files, 'manifest.csv', ['propertyName', 'value'], WHOLE) : []
  const said = manifest.filter((r) => ['file.users', 'file.enrollments'].includes(r.propertyName!)).map((r) => r.value!.toLowerCase())
  return said.includes('delta') || (said.length === 0 && !namedFile(files, 'classes.csv') && classesHere)
}

type StudentHere = RosterMatch['here']['students'][number]
type Who = Pick<RollEntry, 'candidate' | 'name' | 'externalId' | 'signIn' | 'parts'>

/** What the files of a roster say, by the ids that they name each other by. */
interface Roster {
  delta: boolean
  users: ReadonlyMap<string, RosterRow>
  /** Of users that are no more. */
  usersGone: readonly RosterRow[]
  /** Those that are no more among them. */
  enrolments: readonly RosterRow[]
  /** Who teaches a class. */
  teachers: ReadonlyMap<string, RosterRow>
  classes: ReturnType<typeof rosterClasses>
  studentHere: ReadonlyMap<string, StudentHere>
  /** A student as the file describes them, else as they are known here. */
  whoIs: (id: string) => Who | undefined
}

const roleOf = (e: RosterRow) => e.role?.toLowerCase()
const pupilsOf = ({ enrolments }: Pick<Roster, 'enrolments'>) => enrolments.filter((e) => roleOf(e) === 'student' && !isDeleted(e))

function rosterIn(files: Files, { chosen, here = NOTHING_HERE }: Partial<RosterMatch>): Roster {
  const delta = saysChanges(files, here.classes.length > 0)
  const optional = (name: string, needed: readonly string[]) =>
    delta && !namedFile(files, name) ? [] : readAll(files, name, needed, WHOLE)
  const allUsers = optional('users.csv', ['sourcedId', 'givenName', 'familyName'])
  const users = new Map(allUsers.filter((u) => !isDeleted(u)).map((u) => [u.sourcedId!, u]))
  const classRows = optional('classes.csv', ['sourcedId', 'title'])
  if (delta && classRows.length === 0 && here.classes.length === 0)
    throw new FileError('The roster says what changed, of classes that are not known here: bring in one that holds them first.')
  const enrolments = optional('enrollments.csv', ['classSourcedId', 'userSourcedId', 'role'])
  const teachers = new Map(
    enrolments.flatMap((e) => {
      const user = users.get(e.userSourcedId!)
      return roleOf(e) === 'teacher' && !isDeleted(e) && user ? [[e.classSourcedId!, user] as const] : []
    }),
  )
  const studentHere = new Map(here.students.map((s) => [studentId(s.externalId, s.candidate), s]))
  return {
    delta,
    users,
    usersGone: allUsers.filter(isDeleted),
    enrolments,
    teachers,
    classes: rosterClasses(files, classRows, delta, { chosen, here }, WHOLE),
    studentHere,
    whoIs: (id) => {
      const user = users.get(id)
      if (user) return described(id, user)
      const known = studentHere.get(id)
      return delta && known ? asHere(known) : undefined
    },
  }
}

const described = (id: string, user: RosterRow): Who => ({
  candidate: user.identifier ?? '',
  name: wholeName(partsOf(user)),
  externalId: id === ownId(user.identifier ?? '') ? '' : id,
  signIn: signInOf(user),
  parts: partsOf(user),
})
const asHere = (known: StudentHere): Who => ({ ...known, externalId: known.externalId ?? '', signIn: '', parts: null })

/** The last day in a class, both ends being exclusive in a roster; none where it lasts to the end of its terms or of the course, which is no withdrawal. */
function lastDays(files: Files, { byId }: Roster['classes'], lastOfCourse = ''): (e: RosterRow) => string {
  const sessions = namedFile(files, 'academicSessions.csv') ? readSheet(files, 'academicSessions.csv', ['sourcedId', 'endDate'], WHOLE) : []
  const ends = new Map(sessions.map((s) => [s.sourcedId!, s.endDate!]))
  return ({ endDate = '', classSourcedId }) => {
    const end = (byId.get(classSourcedId!)?.termSourcedIds ?? '')
      .split(',')
      .flatMap((id) => ends.get(id.trim()) ?? [])
      .sort()
      .at(-1)
    if ([end ?? '', lastOfCourse].some((last) => last !== '' && endDate >= last)) return ''
    return /^\d{4}-\d{2}-\d{2}$/.test(endDate) ? shiftDay(endDate, -1) : endDate
  }
}

/** The places of students in classes, as rows of a roll. */
interface Places {
  rows: { line: number; cells: string[] }[]
  /** Parts of the name of who stands in a line. */
  partsAt: Map<number, NameParts | null>
  /** Ids of those who have one. */
  seen: Set<string>
  /** Of classes that are not ours. */
  left: number
  faults: RollFile['faults']
}

function placesIn(roster: Roster, lastDayOf: (e: RosterRow) => string): Places {
  const { byId, codeOf, ours } = roster.classes
  const places: Places = { rows: [], partsAt: new Map(), seen: new Set(), left: 0, faults: [] }
  for (const e of roster.enrolments.filter((row) => isDeleted(row) && !(row.classSourcedId && row.userSourcedId)))
    places.faults.push({
      line: lineOf(e),
      column: 'enrollments.csv sourcedId',
      candidate: '',
      name: '',
      reason: `The enrolment ${e.sourcedId?.slice(0, 40)} is deleted by its id alone, which does not say whose it is. Withdraw the student by hand, or give classSourcedId and userSourcedId.`,
    })
  for (const e of pupilsOf(roster)) {
    const line = lineOf(e)
    const [who, code] = [roster.whoIs(e.userSourcedId!), codeOf(e.classSourcedId!)]
    const refuse = (column: string, reason: string) =>
      places.faults.push({ line, column: `enrollments.csv ${column}`, candidate: '', name: who?.name ?? '', reason })
    if (code === undefined && !roster.delta)
      refuse('classSourcedId', `No class in classes.csv has the id ${e.classSourcedId?.slice(0, 40)}.`)
    else if (code === undefined || !ours.has(e.classSourcedId!)) places.left++
    else if (!who) refuse('userSourcedId', `No user in users.csv has the id ${e.userSourcedId?.slice(0, 40)}.`)
    else {
      const section = byId.get(e.classSourcedId!)
      const teacher = roster.teachers.get(e.classSourcedId!)
      places.seen.add(e.userSourcedId!)
      places.partsAt.set(line, who.parts)
      places.rows.push({
        line,
        cells: [
          who.candidate,
          who.name,
          code,
          section?.title ?? '',
          teacher ? wholeName(partsOf(teacher)) : '',
          section?.['metadata.weekdays'] ?? '',
          section?.['metadata.firstDay'] ?? '',
          who.externalId,
          who.signIn,
          e.beginDate ?? '',
          lastDayOf(e),
          // A roster says what it is: nothing in it is taken for a formula.
        ].map(guarded),
      })
    }
  }
  return places
}

/** What the classes of the file that are ours are, whoever is in them: those with students first, in their order. */
function sectionsIn({ classes: { byId, codeOf, ours }, teachers }: Roster, rows: Places['rows']): FileSection[] {
  const idOf = new Map([...ours].flatMap((id) => (byId.has(id) ? [[codeOf(id)!, id] as const] : [])))
  const codes = new Set([...rows.map((r) => r.cells[2]!), ...[...byId.keys()].map((id) => codeOf(id)!)])
  return [...codes].flatMap((code) => {
    const id = idOf.get(code)
    if (id === undefined) return []
    const [c, teacher] = [byId.get(id), teachers.get(id)]
    return [
      {
        code,
        name: c?.title || null,
        teacher: teacher ? wholeName(partsOf(teacher)) : null,
        weekdays: c?.['metadata.weekdays'] ? readWeekdays(c['metadata.weekdays']) : null,
        firstDay: c?.['metadata.firstDay'] || null,
        sourceId: id,
        teacherSourceId: teacher?.sourcedId ?? null,
      },
    ]
  })
}

/** Who is deleted in a file of changes, or whose place in a class is, and who is in no other. */
function leaversIn({ classes: { codeOf, ours }, enrolments, studentHere, usersGone, whoIs }: Roster, seen: Set<string>): RollEntry[] {
  const places = group(
    enrolments.filter((e) => isDeleted(e) && roleOf(e) !== 'teacher' && ours.has(e.classSourcedId!) && !seen.has(e.userSourcedId!)),
    (e) => e.userSourcedId!,
  )
  const entry = (id: string, row: RosterRow, leaves: RollEntry['leaves']): RollEntry[] => {
    const known = studentHere.get(id)
    const who = known ? asHere(known) : whoIs(id)
    seen.add(id)
    return who ? [{ ...who, line: lineOf(row), stays: [], leaves }] : []
  }
  const gone = usersGone.filter((u) => studentHere.has(u.sourcedId!) && !seen.has(u.sourcedId!))
  const wholly = gone.flatMap((u) => entry(u.sourcedId!, u, 'all'))
  const partly = [...places].filter(([id]) => !seen.has(id))
  return [
    ...wholly,
    ...partly.flatMap(([id, of]) =>
      entry(
        id,
        of[0]!,
        of.map((e) => codeOf(e.classSourcedId!)!),
      ),
    ),
  ]
}

/** Who is here and of whom the file says something, but not of a place in a class. */
const renamedIn = ({ users, studentHere, whoIs }: Roster, seen: ReadonlySet<string>): RollEntry[] =>
  [...users.values()].flatMap((u) => {
    const known = studentHere.get(u.sourcedId!)
    if (!known || seen.has(u.sourcedId!)) return []
    return [{ ...whoIs(u.sourcedId!)!, candidate: u.identifier || known.candidate, line: lineOf(u), stays: [] }]
  })

/**
 * Reads students, sections, teachers and enrolments of a roster (OneRoster 1.2 CSV). A student's `identifier` is the candidate number and
 * the `sourcedId` the external id; weekdays and first day stand in metadata columns. A class is what its id says. Of the classes of several
 * courses those are read that were chosen, else those that are known here, else those of a course with the code or title of ours. A file
 * of changes may leave out what is known here; who is deleted in it leaves.
 * @throws FileError where a file or a column is missing
 */
export function readOneRoster(files: Files, match: Partial<RosterMatch> = {}): RollFile {
  const roster = rosterIn(files, match)
  const { rows, partsAt, seen, left, faults } = placesIn(roster, lastDays(files, roster.classes, match.here?.course.lastDay))
  const file = readRollTable({ header: [...ROLL_HEADER], rows })
  const entries: RollEntry[] = file.entries.map((e) => ({ ...e, parts: partsAt.get(e.line) ?? null }))
  if (roster.delta) entries.push(...leaversIn(roster, seen), ...renamedIn(roster, seen))
  const pupils = rollup(
    pupilsOf(roster),
    (of) => of.length,
    (e) => e.classSourcedId!,
  )
  return {
    ...file,
    header: [],
    columns: {},
    sections: sectionsIn(roster, rows),
    entries,
    faults: [...faults, ...file.faults],
    roster: { delta: roster.delta, left, classes: roster.classes.told(pupils) },
  }
}
