import { group, rollup } from 'd3-array'
import { shiftDay } from '../roll/days'
import { wholeName, type NameParts } from '../roll/name-parts'
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

const partsOf = (u: RosterRow): NameParts => ({ given: u.givenName ?? '', middle: u.middleName ?? '', family: u.familyName ?? '' })

/** Whether it says only what changed since another one: its manifest does, or what is not in it must be known here. */
function saysChanges(files: Files, classesHere: boolean): boolean {
  const manifest = namedFile(files, 'manifest.csv') ? readSheet(files, 'manifest.csv', ['propertyName', 'value'], WHOLE) : []
  const said = manifest.filter((r) => ['file.users', 'file.enrollments'].includes(r.propertyName!)).map((r) => r.value!.toLowerCase())
  return said.includes('delta') || (said.length === 0 && !namedFile(files, 'classes.csv') && classesHere)
}

/**
 * Reads students, sections, teachers and enrolments of a roster (OneRoster 1.2 CSV). A student's `identifier` is the candidate number and
 * the `sourcedId` the external id; weekdays and first day stand in metadata columns. A class is what its id says. Of the classes of several
 * courses those are read that were chosen, else those that are known here, else those of a course with the code or title of ours. A file
 * of changes may leave out what is known here; who is deleted in it leaves.
 * @throws FileError where a file or a column is missing
 */
export function readOneRoster(files: Files, { chosen, here = NOTHING_HERE }: Partial<RosterMatch> = {}): RollFile {
  const delta = saysChanges(files, here.classes.length > 0)
  const optional = (name: string, needed: readonly string[]) =>
    delta && !namedFile(files, name) ? [] : readAll(files, name, needed, WHOLE)
  const allUsers = optional('users.csv', ['sourcedId', 'givenName', 'familyName'])
  const users = new Map(allUsers.filter((u) => !isDeleted(u)).map((u) => [u.sourcedId!, u]))
  const classRows = optional('classes.csv', ['sourcedId', 'title'])
  if (delta && classRows.length === 0 && here.classes.length === 0)
    throw new FileError('The roster says what changed, of classes that are not known here: bring in one that holds them first.')
  const enrolments = optional('enrollments.csv', ['classSourcedId', 'userSourcedId', 'role'])
  const active = enrolments.filter((e) => !isDeleted(e))
  const role = (e: RosterRow) => e.role?.toLowerCase()

  const teachers = new Map<string, RosterRow>()
  for (const e of active) {
    const user = users.get(e.userSourcedId!)
    if (role(e) === 'teacher' && user) teachers.set(e.classSourcedId!, user)
  }

  const { byId, codeOf, ours, told } = rosterClasses(files, classRows, delta, { chosen, here }, WHOLE)
  const pupils = rollup(
    active.filter((e) => role(e) === 'student'),
    (of) => of.length,
    (e) => e.classSourcedId!,
  )

  const ends = new Map(
    (namedFile(files, 'academicSessions.csv') ? readSheet(files, 'academicSessions.csv', ['sourcedId', 'endDate'], WHOLE) : []).map((s) => [
      s.sourcedId!,
      s.endDate!,
    ]),
  )
  /** The last day in a class, both ends being exclusive in a roster; none where it lasts to the end of the term, which is no withdrawal. */
  const lastDayOf = ({ endDate = '', classSourcedId }: RosterRow): string => {
    const end = (byId.get(classSourcedId!)?.termSourcedIds ?? '')
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

  const studentHere = new Map(here.students.map((s) => [studentId(s.externalId, s.candidate), s]))
  /** A student as the file describes them, else as they are known here. */
  const whoIs = (id: string): Pick<RollEntry, 'candidate' | 'name' | 'externalId' | 'signIn' | 'parts'> | undefined => {
    const user = users.get(id)
    const known = studentHere.get(id)
    if (user)
      return {
        candidate: user.identifier ?? '',
        name: wholeName(partsOf(user)),
        externalId: id === ownId(user.identifier ?? '') ? '' : id,
        signIn: signInOf(user),
        parts: partsOf(user),
      }
    return delta && known ? { ...known, externalId: known.externalId ?? '', signIn: '', parts: null } : undefined
  }

  const faults: RollFile['faults'] = []
  const rows: { line: number; cells: string[] }[] = []
  const partsAt = new Map<number, NameParts | null>()
  const seen = new Set<string>()
  let left = 0
  for (const e of active) {
    if (role(e) !== 'student') continue
    const line = lineOf(e)
    const [who, code] = [whoIs(e.userSourcedId!), codeOf(e.classSourcedId!)]
    const refuse = (column: string, reason: string) =>
      faults.push({ line, column: `enrollments.csv ${column}`, candidate: '', name: who?.name ?? '', reason })
    if (code === undefined && !delta) refuse('classSourcedId', `No class in classes.csv has the id ${e.classSourcedId?.slice(0, 40)}.`)
    else if (code === undefined || !ours.has(e.classSourcedId!)) left++
    else if (!who) refuse('userSourcedId', `No user in users.csv has the id ${e.userSourcedId?.slice(0, 40)}.`)
    else {
      const section = byId.get(e.classSourcedId!)
      const teacher = teachers.get(e.classSourcedId!)
      seen.add(e.userSourcedId!)
      partsAt.set(line, who.parts)
      rows.push({
        line,
        cells: [
          who.candidate,
          // A roster says what it is: nothing in it is taken for a formula.
          guarded(who.name),
          code,
          section?.title ?? '',
          teacher ? wholeName(partsOf(teacher)) : '',
          section?.['metadata.weekdays'] ?? '',
          section?.['metadata.firstDay'] ?? '',
          who.externalId,
          guarded(who.signIn),
          e.beginDate ?? '',
          lastDayOf(e),
        ],
      })
    }
  }
  const file = readRollTable({ header: [...ROLL_HEADER], rows })

  // What a class of the file is, whoever is in it.
  const sectionOf = (id: string): FileSection => {
    const [c, teacher] = [byId.get(id), teachers.get(id)]
    return {
      code: codeOf(id)!,
      name: c?.title || null,
      teacher: teacher ? wholeName(partsOf(teacher)) : null,
      weekdays: c?.['metadata.weekdays'] ? readWeekdays(c['metadata.weekdays']) : null,
      firstDay: c?.['metadata.firstDay'] || null,
      sourceId: id,
      teacherSourceId: teacher?.sourcedId ?? null,
    }
  }
  const inOrder = [...new Set([...rows.map((r) => r.cells[2]!), ...[...byId.keys()].map((id) => codeOf(id)!)])]
  const idOf = new Map([...ours].flatMap((id) => (byId.has(id) ? [[codeOf(id)!, id] as const] : [])))

  const entries: RollEntry[] = file.entries.map((e) => ({ ...e, parts: partsAt.get(e.line) ?? null }))
  if (delta) entries.push(...leavers(), ...renamed())
  /** Who is deleted in a file of changes, or whose place in a class is, and who is in no other. */
  function leavers(): RollEntry[] {
    const places = group(
      enrolments.filter((e) => isDeleted(e) && role(e) !== 'teacher' && ours.has(e.classSourcedId!) && !seen.has(e.userSourcedId!)),
      (e) => e.userSourcedId!,
    )
    const gone = allUsers.filter((u) => isDeleted(u) && studentHere.has(u.sourcedId!) && !seen.has(u.sourcedId!))
    const entry = (id: string, row: RosterRow, leaves: RollEntry['leaves']): RollEntry[] => {
      const who = studentHere.get(id) ? { ...studentHere.get(id)!, externalId: studentHere.get(id)!.externalId ?? '' } : whoIs(id)
      seen.add(id)
      return who ? [{ signIn: '', parts: null, ...who, line: lineOf(row), stays: [], leaves }] : []
    }
    return [
      ...gone.flatMap((u) => entry(u.sourcedId!, u, 'all')),
      ...[...places].flatMap(([id, of]) =>
        seen.has(id)
          ? []
          : entry(
              id,
              of[0]!,
              of.map((e) => codeOf(e.classSourcedId!)!),
            ),
      ),
    ]
  }
  /** Who is here and of whom the file says something, but not of a place in a class. */
  function renamed(): RollEntry[] {
    return [...users.values()].flatMap((u) => {
      const known = studentHere.get(u.sourcedId!)
      if (!known || seen.has(u.sourcedId!)) return []
      return [{ ...whoIs(u.sourcedId!)!, candidate: u.identifier || known.candidate, line: lineOf(u), stays: [] }]
    })
  }

  return {
    ...file,
    header: [],
    columns: {},
    sections: inOrder.flatMap((code) => (idOf.has(code) ? [sectionOf(idOf.get(code)!)] : [])),
    entries,
    faults: [...faults, ...file.faults],
    roster: {
      delta,
      left,
      classes: told(pupils),
    },
  }
}
