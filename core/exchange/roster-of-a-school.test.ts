import { strToU8 } from 'fflate'
import { rollChanges, type RollSection, type RollStudent } from '../roll/roll-changes'
import { readOneRoster } from './one-roster'
import type { RosterMatch } from './roll-file'

const csv = (rows: string[][]) => strToU8(rows.map((r) => r.join(',')).join('\r\n'))
const packed = (files: Record<string, string[][]>) => new Map(Object.entries(files).map(([name, rows]) => [name, csv(rows)]))

const USERS = [
  ['sourcedId', 'status', 'givenName', 'middleName', 'familyName', 'identifier'],
  ['u1', '', 'Aylin', '', 'Aldana', '3901'],
  ['u2', '', 'Gael', 'de', 'Castellane', '3902'],
  ['u3', '', 'Ola', '', 'Quist', '3903'],
  ['t1', '', 'Lea', 'van', 'Ostrand', ''],
]
const SCHOOL = {
  'users.csv': USERS,
  'courses.csv': [
    ['sourcedId', 'title', 'courseCode'],
    ['k1', 'Field Mapping', 'CFS 214'],
    ['k2', 'Tides', 'CFS 301'],
  ],
  'classes.csv': [
    ['sourcedId', 'title', 'classCode', 'courseSourcedId'],
    ['c1', 'Alidade', 'A', 'k1'],
    ['c2', 'Groma', 'G', 'k1'],
    ['c9', 'Harbour', 'H', 'k2'],
  ],
  'enrollments.csv': [
    ['sourcedId', 'classSourcedId', 'userSourcedId', 'role', 'beginDate', 'endDate'],
    ['e1', 'c1', 'u1', 'student', '', ''],
    ['e2', 'c2', 'u2', 'student', '', ''],
    ['e3', 'c9', 'u2', 'student', '', ''],
    ['e4', 'c9', 'u3', 'student', '', ''],
    ['e5', 'c1', 't1', 'teacher', '', ''],
  ],
}
const HERE: RosterMatch['here'] = { course: { code: 'cfs 214', title: 'Fieldwork' }, classes: [], students: [] }

describe('a roster of a whole school', () => {
  test('classes of the course with our code are read, and it is said how much was left', () => {
    const { entries, sections, roster, faults } = readOneRoster(packed(SCHOOL), { here: HERE })
    expect(faults).toEqual([])
    expect(entries.map((e) => [e.candidate, e.stays[0]!.section])).toEqual([
      ['3901', 'A'],
      ['3902', 'G'],
    ])
    expect(sections.map((s) => s.sourceId)).toEqual(['c1', 'c2'])
    expect(roster).toMatchObject({ delta: false, left: 2 })
    expect(roster!.classes.map((c) => [c.sourceId, c.course, c.students, c.chosen])).toEqual([
      ['c1', 'CFS 214 Field Mapping', 1, true],
      ['c2', 'CFS 214 Field Mapping', 1, true],
      ['c9', 'CFS 301 Tides', 2, false],
    ])
  })

  test('nothing is read where none can be ours; what is chosen is read; classes known here go before a code', () => {
    const none = readOneRoster(packed(SCHOOL), { here: { ...HERE, course: { code: 'X', title: 'Y' } } })
    expect([none.entries, none.sections, none.roster!.left]).toEqual([[], [], 4])
    const chosen = readOneRoster(packed(SCHOOL), { chosen: ['c9'], here: HERE })
    expect(chosen.entries.map((e) => e.candidate)).toEqual(['3902', '3903'])
    const known = readOneRoster(packed(SCHOOL), { here: { ...HERE, classes: [{ sourceId: 'c9', code: 'HB' }] } })
    expect(known.entries.map((e) => e.stays[0]!.section)).toEqual(['HB', 'HB'])
  })

  test('a class is known by its id: a section here with the code of another class is not taken for it', () => {
    const here = { ...HERE, classes: [{ sourceId: 'c1', code: 'G' }] }
    const { sections } = readOneRoster(packed(SCHOOL), { chosen: ['c1', 'c2'], here })
    expect(sections.map((s) => [s.sourceId, s.code])).toEqual([
      ['c1', 'G'],
      ['c2', 'c2'],
    ])
  })
})

const SECTIONS: RollSection[] = ['A', 'G'].map((code, i) => ({
  id: `s${i + 1}`,
  code,
  name: code,
  teacherId: null,
  weekdays: [],
  firstDay: null,
}))
const student = (candidate: string, name: string, externalId: string, sectionId: string): RollStudent => ({
  id: candidate,
  candidate,
  name,
  externalId,
  signIn: null,
  stays: [{ sectionId, from: '2026-09-07', to: null }],
})
const STUDENTS = [student('3901', 'Aylin Aldana', 'u1', 's1'), student('3902', 'Gael de Castellane', 'u2', 's2')]
const CLASSES = [
  { sourceId: 'c1', code: 'A' },
  { sourceId: 'c2', code: 'G' },
]
const DELTA = [
  ['propertyName', 'value'],
  ['oneroster.version', '1.2'],
  ['file.enrollments', 'delta'],
]
const ENROL = ['sourcedId', 'status', 'classSourcedId', 'userSourcedId', 'role', 'beginDate', 'endDate']

function changed(files: Record<string, string[][]>, people: { id: string; name: string; sourceId?: string }[] = []) {
  const here = { ...HERE, classes: CLASSES, students: STUDENTS }
  const file = readOneRoster(packed(files), { here })
  return { file, ...rollChanges({ sections: SECTIONS, students: STUDENTS, people }, file, '2026-10-12') }
}

describe('a roster of changes', () => {
  test('enrolments alone: one moves, nobody else is missing, and what is of other classes is left', () => {
    const { file, rows, missing, students } = changed({
      'manifest.csv': DELTA,
      'enrollments.csv': [
        ENROL,
        ['e1', 'tobedeleted', 'c1', 'u1', 'student', '', ''],
        ['e9', 'active', 'c2', 'u1', 'student', '2026-10-19', ''],
        ['e8', 'active', 'c77', 'u4', 'student', '', ''],
      ],
    })
    expect(file.faults).toEqual([])
    expect(file.roster!.left).toBe(1)
    expect(rows.map((r) => [r.name, r.outcome, r.before, r.after])).toEqual([
      ['Aylin Aldana', 'moved', 'Aylin Aldana, A', 'Aylin Aldana, G'],
    ])
    expect(students[0]!.stays).toEqual([
      { section: 'a', from: '2026-09-07', to: '2026-10-18' },
      { section: 'g', from: '2026-10-19', to: null },
    ])
    expect(missing).toEqual([])
  })

  test('a place that is deleted is a withdrawal from the day on, an end in it by that day', () => {
    const deleted = changed({ 'manifest.csv': DELTA, 'enrollments.csv': [ENROL, ['e2', 'tobedeleted', 'c2', 'u2', 'student', '', '']] })
    expect(deleted.students.map((s) => s.stays)).toEqual([[{ section: 'g', from: '2026-09-07', to: '2026-10-11' }]])
    expect(deleted.rows[0]).toMatchObject({ outcome: 'moved', after: 'Gael de Castellane, withdrawn' })
    const ended = changed({
      'manifest.csv': DELTA,
      'enrollments.csv': [ENROL, ['e2', '', 'c2', 'u2', 'student', '2026-09-07', '2026-11-01']],
    })
    expect(ended.students[0]!.stays).toEqual([{ section: 'g', from: '2026-09-07', to: '2026-10-31' }])
    // Deleted of a class that one is in no longer, it changes nothing.
    const over = changed({ 'manifest.csv': DELTA, 'enrollments.csv': [ENROL, ['e2', 'tobedeleted', 'c1', 'u2', 'student', '', '']] })
    expect([over.students, over.rows.map((r) => r.outcome)]).toEqual([[], ['unchanged']])
  })

  test('users and enrolments without classes: one is new, one has another name, one is gone', () => {
    const { rows, students, roster } = changed({
      'users.csv': [
        USERS[0]!,
        ['u1', '', 'Aylin', '', 'Aldana-Roe', '3901'],
        ['u2', 'tobedeleted', 'Gael', 'de', 'Castellane', '3902'],
        ['u3', '', 'Ola', '', 'Quist', '3903'],
        ['u5', '', 'Not', '', 'Ours', '4000'],
      ],
      'enrollments.csv': [ENROL, ['e6', '', 'c1', 'u3', 'student', '', '']],
    })
    expect(rows.map((r) => [r.name, r.outcome, r.after])).toEqual([
      ['Ola Quist', 'added', 'Ola Quist, A'],
      ['Gael de Castellane', 'moved', 'Gael de Castellane, withdrawn'],
      ['Aylin Aldana-Roe', 'changed', 'Aylin Aldana-Roe, A'],
    ])
    expect(students).toHaveLength(3)
    expect(roster.names.map((n) => n.parts.family)).toEqual(['Quist', 'Aldana-Roe'])
  })

  test('where no class is known here it says to bring in one that holds them', () => {
    expect(() => readOneRoster(packed({ 'manifest.csv': DELTA, 'enrollments.csv': [ENROL] }))).toThrow(/bring in one that holds them first/)
  })
})

test('who teaches is known by the id, whatever the name; ids of classes and teachers are told to be kept', () => {
  const people = [
    { id: 'p1', name: 'L. Ostrand', sourceId: 't1' },
    { id: 'p2', name: 'Lea van Ostrand' },
  ]
  const file = readOneRoster(packed(SCHOOL), { here: HERE })
  const { sections, roster, notes } = rollChanges({ sections: [], students: [], people }, file, '2026-09-07')
  expect(sections.map((s) => [s.code, s.teacherId])).toEqual([
    ['A', 'p1'],
    ['G', null],
  ])
  expect(roster.classes).toEqual([
    { code: 'a', sourceId: 'c1' },
    { code: 'g', sourceId: 'c2' },
  ])
  expect(roster.teachers).toEqual([{ personId: 'p1', sourceId: 't1' }])
  expect(notes).toEqual([])
})

test('of a roster of several courses only the classes that are read can lack somebody', () => {
  const elsewhere = student('3909', 'Noor Haddad', 'u9', 's2')
  const file = readOneRoster(packed(SCHOOL), { chosen: ['c1'], here: { ...HERE, classes: CLASSES } })
  expect(rollChanges({ sections: SECTIONS, students: [...STUDENTS, elsewhere], people: [] }, file, '2026-10-12').missing).toEqual([])
})
