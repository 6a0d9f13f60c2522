import { strToU8, unzipSync, zipSync } from 'fflate'
import { FileError } from './delimited'
import { isOneRoster, readOneRoster } from './one-roster'
import { OWN_NAMES } from './roster-files'
import { unzipBounded } from './unzip'
import { writeOneRoster } from './write-one-roster'

const csv = (rows: string[][]) => strToU8(rows.map((r) => r.join(',')).join('\r\n'))
const USERS = [
  ['sourcedId', 'status', 'givenName', 'middleName', 'familyName', 'identifier', 'username', 'email'],
  ['u1', '', 'Aylin', '', 'Aldana', '3901', 'aylin.a', 'aylin@vale.example'],
  // A user name that is the id alone says nothing.
  ['u2', '', 'Gael', 'de', 'Castellane', '', 'u2', 'gael@vale.example'],
  ['u3', 'tobedeleted', 'Gone', '', 'Away', '3903', '', ''],
  ['t1', '', 'Lea', '', 'Ostrand', '', '', ''],
]
const CLASSES = [
  ['sourcedId', 'title', 'classCode', 'metadata.weekdays', 'metadata.firstDay'],
  ['c1', 'Alidade', 'A', 'Mon Thu', '2026-09-07'],
  ['c2', 'Groma', '', '', ''],
  ['c3', 'Nobody here', 'N', 'Tue', ''],
]
const ENROLMENTS = [
  ['sourcedId', 'classSourcedId', 'userSourcedId', 'role', 'beginDate', 'endDate'],
  ['e1', 'c1', 'u1', 'student', '2026-09-07', ''],
  ['e2', 'c2', 'u2', 'student', '', ''],
  ['e3', 'c1', 't1', 'teacher', '', ''],
]
const roster = (files: Record<string, string[][]> = {}) =>
  new Map(
    Object.entries({ 'users.csv': USERS, 'classes.csv': CLASSES, 'enrollments.csv': ENROLMENTS, ...files }).map(([n, rows]) => [
      n,
      csv(rows),
    ]),
  )

test('students, sections, teachers and what others wrote of them are understood', () => {
  const file = readOneRoster(roster())
  expect(file.faults).toEqual([])
  expect(file.entries).toEqual([
    {
      line: 2,
      candidate: '3901',
      name: 'Aylin Aldana',
      externalId: 'u1',
      signIn: 'aylin.a',
      parts: { given: 'Aylin', middle: '', family: 'Aldana' },
      stays: [{ section: 'A', from: '2026-09-07', to: '' }],
    },
    {
      line: 3,
      candidate: '',
      name: 'Gael de Castellane',
      externalId: 'u2',
      signIn: 'gael@vale.example',
      parts: { given: 'Gael', middle: 'de', family: 'Castellane' },
      stays: [{ section: 'c2', from: '', to: '' }],
    },
  ])
  expect(file.sections).toEqual([
    { code: 'A', name: 'Alidade', teacher: 'Lea Ostrand', weekdays: [1, 4], firstDay: '2026-09-07', sourceId: 'c1', teacherSourceId: 't1' },
    { code: 'c2', name: 'Groma', teacher: null, weekdays: null, firstDay: null, sourceId: 'c2', teacherSourceId: null },
    { code: 'N', name: 'Nobody here', teacher: null, weekdays: [2], firstDay: null, sourceId: 'c3', teacherSourceId: null },
  ])
})

test('an end is the first day after; who stays to the end of the term has not left, and a move ends and begins on one day', () => {
  const files = {
    'academicSessions.csv': [
      ['sourcedId', 'title', 'type', 'startDate', 'endDate'],
      ['autumn', 'Autumn', 'term', '2026-09-07', '2026-12-19'],
    ],
    'classes.csv': [
      ['sourcedId', 'title', 'classCode', 'termSourcedIds'],
      ['c1', 'Alidade', 'A', 'autumn'],
      ['c2', 'Groma', 'G', 'autumn'],
    ],
    'enrollments.csv': [
      ['sourcedId', 'classSourcedId', 'userSourcedId', 'role', 'beginDate', 'endDate'],
      ['e1', 'c1', 'u1', 'student', '2026-09-07', '2026-10-12'],
      ['e2', 'c2', 'u1', 'student', '2026-10-12', '2026-12-19'],
      ['e3', 'c2', 'u2', 'student', '2026-09-07', '2026-11-02'],
    ],
  }
  const file = readOneRoster(roster(files))
  expect(file.faults).toEqual([])
  expect(file.entries.map((e) => e.stays)).toEqual([
    [
      { section: 'A', from: '2026-09-07', to: '2026-10-11' },
      { section: 'G', from: '2026-10-12', to: '' },
    ],
    [{ section: 'G', from: '2026-09-07', to: '2026-11-01' }],
  ])
})

test('two classes with one code stay two', () => {
  const twice = CLASSES.map((c, i) => (i === 2 ? ['c2', 'Groma', 'a', '', ''] : c))
  const { sections, entries } = readOneRoster(roster({ 'classes.csv': twice }))
  expect(sections.map((s) => [s.code, s.name])).toEqual([
    ['c1', 'Alidade'],
    ['c2', 'Groma'],
    ['N', 'Nobody here'],
  ])
  expect(entries.map((e) => e.stays[0]!.section)).toEqual(['c1', 'c2'])
})

test('a row is named by its line in the file, whatever stands above it', () => {
  const rows = [
    ENROLMENTS[0]!,
    ['"e\n1"', 'c1', 'u1', 'student', '', ''],
    ['e2', 'c1', 'u2', 'student', '', '', 'tobedeleted'],
    ['e3', 'c9', 'u2', 'student', '', ''],
  ].map((r, i) => [...r.slice(0, 6), i === 0 ? 'status' : (r[6] ?? '')])
  expect(readOneRoster(roster({ 'enrollments.csv': rows })).faults).toMatchObject([{ line: 5, column: 'enrollments.csv classSourcedId' }])
})

test('an enrolment of nobody, or in no class, is named by line and column', () => {
  const rows = [...ENROLMENTS, ['e4', 'c9', 'u1', 'student', '', ''], ['e5', 'c1', 'u3', 'student', '', '']]
  expect(readOneRoster(roster({ 'enrollments.csv': rows })).faults).toEqual([
    {
      line: 5,
      column: 'enrollments.csv classSourcedId',
      candidate: '',
      name: 'Aylin Aldana',
      reason: 'No class in classes.csv has the id c9.',
    },
    { line: 6, column: 'enrollments.csv userSourcedId', candidate: '', name: '', reason: 'No user in users.csv has the id u3.' },
  ])
})

test('what is missing is said', () => {
  const without = roster()
  without.delete('classes.csv')
  expect(() => readOneRoster(without)).toThrow(/has no classes\.csv: it needs/)
  expect(() => readOneRoster(roster({ 'users.csv': [['sourcedId'], ['u1']] }))).toThrow(
    'users.csv in the roster has no column givenName, familyName.',
  )
  const broken = roster()
  broken.set('users.csv', strToU8('sourcedId,givenName\n"u1,Aylin'))
  expect(() => readOneRoster(broken)).toThrow(FileError)
})

test('it is known by its files, in a folder or not', () => {
  expect(isOneRoster(roster())).toBe(true)
  expect(
    isOneRoster(
      new Map([
        ['term/users.csv', csv(USERS)],
        ['term/enrollments.csv', csv(ENROLMENTS)],
      ]),
    ),
  ).toBe(true)
  expect(isOneRoster(new Map([['enrollments.csv', csv(ENROLMENTS)]]))).toBe(true)
  expect(isOneRoster(new Map([['a.csv', csv(USERS)]]))).toBe(false)
  // Users may come with results, which are marks.
  expect(
    isOneRoster(
      new Map([
        ['users.csv', csv(USERS)],
        ['results.csv', csv(USERS)],
      ]),
    ),
  ).toBe(false)
})

test('what is written has a manifest that says what is in it, and every reference leads somewhere', () => {
  const course = { id: 'c', code: 'CFS', title: 'Field', term: 'autumn', firstDay: '2026-09-07', lastDay: '2026-12-18' }
  const zip = writeOneRoster(
    course,
    {
      sections: [{ id: 's1', code: 'A', name: 'Alidade', teacher: 'Lea Ostrand', teacherId: 'lea', weekdays: [1], firstDay: null }],
      students: [
        {
          id: 'x1',
          candidate: '1',
          name: 'Aylin Aldana',
          externalId: null,
          signIn: null,
          stays: [{ sectionId: 's1', from: '2026-09-07', to: null }],
        },
      ],
    },
    OWN_NAMES,
  )
  const files = unzipSync(zip)
  const rows = (name: string) =>
    new TextDecoder()
      .decode(files[name])
      .trim()
      .split('\r\n')
      .map((l) => l.split(','))
  const manifest = new Map(rows('manifest.csv').map(([k, v]) => [k, v]))
  expect(manifest.get('oneroster.version')).toBe('1.2')
  for (const name of Object.keys(files).filter((n) => n !== 'manifest.csv'))
    expect(manifest.get(`file.${name.replace('.csv', '')}`)).toBe('bulk')
  expect([...manifest].filter(([, v]) => v === 'bulk')).toHaveLength(Object.keys(files).length - 1)
  const column = (name: string, field: string) => {
    const [head, ...body] = rows(name)
    return body.map((r) => r[head!.indexOf(field)]!)
  }
  for (const id of column('enrollments.csv', 'userSourcedId')) expect(column('users.csv', 'sourcedId')).toContain(id)
  for (const id of column('enrollments.csv', 'classSourcedId')) expect(column('classes.csv', 'sourcedId')).toContain(id)
  for (const id of column('roles.csv', 'userSourcedId')) expect(column('users.csv', 'sourcedId')).toContain(id)
  expect(column('academicSessions.csv', 'endDate')).toEqual(['2026-12-19'])
  for (const id of column('classes.csv', 'termSourcedIds')) expect(column('academicSessions.csv', 'sourcedId')).toContain(id)
})

describe('unpacking', () => {
  test('what comes out is what went in, whatever is in it', () => {
    const files = { 'a.txt': strToU8('a'), 'b/c.txt': new Uint8Array(200_000).map((_, i) => i % 251), empty: new Uint8Array() }
    for (const level of [0, 6] as const) {
      const out = unzipBounded(zipSync(files, { level }))
      expect([...out.keys()].sort()).toEqual(Object.keys(files).sort())
      for (const [name, data] of Object.entries(files)) expect(out.get(name)).toEqual(data)
    }
  })
  test('too many files, a broken end', () => {
    const many = zipSync(Object.fromEntries(Array.from({ length: 201 }, (_, i) => [`f${i}`, strToU8('x')])))
    expect(() => unzipBounded(many)).toThrow('more than 200 files')
    expect(() => unzipBounded(many.slice(0, -30))).toThrow('breaks off before its end')
    expect(() => unzipBounded(strToU8('PK but nothing else'))).toThrow(FileError)
  })
})

describe('who is in a class to the end has not left', () => {
  const here = { course: { code: 'F', title: 'Fieldwork', lastDay: '2026-12-18' }, classes: [], students: [] }
  const toIn = (endDate: string, files = {}) => {
    const rows = [ENROLMENTS[0]!, ['e1', 'c1', 'u1', 'student', '2026-09-07', endDate]]
    return readOneRoster(roster({ 'enrollments.csv': rows, ...files }), { here }).entries[0]!.stays[0]!.to
  }
  test.each(['2026-12-18', '2026-12-19', '2027-06-30'])('without its terms the course’s last day counts: %s', (end) =>
    expect(toIn(end)).toBe(''),
  )
  test('an earlier one is the day after the last', () => expect(toIn('2026-11-02')).toBe('2026-11-01'))
  test('of a class of two terms, the end of the one that the course lies in', () => {
    const terms = {
      'academicSessions.csv': [
        ['sourcedId', 'title', 'type', 'startDate', 'endDate'],
        ['autumn', 'Autumn', 'term', '2026-09-07', '2026-12-19'],
        ['spring', 'Spring', 'term', '2027-01-11', '2027-06-30'],
      ],
      'classes.csv': [
        ['sourcedId', 'title', 'classCode', 'termSourcedIds'],
        ['c1', 'Alidade', 'A', '"autumn,spring"'],
      ],
    }
    expect([toIn('2026-12-19', terms), toIn('2027-06-30', terms), toIn('2026-11-02', terms)]).toEqual(['', '', '2026-11-01'])
  })
})

test('an enrolment that is deleted by its id alone is named', () => {
  const files = new Map([
    ['manifest.csv', csv([['propertyName', 'value'], ['file.enrollments', 'delta']])], // prettier-ignore
    ['enrollments.csv', csv([['sourcedId', 'status', 'classSourcedId', 'userSourcedId', 'role'], ['e7', 'tobedeleted', '', '', '']])], // prettier-ignore
  ])
  const here = { course: { code: 'F', title: 'Fieldwork' }, classes: [{ sourceId: 'c1', code: 'A' }], students: [] }
  expect(readOneRoster(files, { here }).faults).toMatchObject([
    {
      line: 2,
      column: 'enrollments.csv sourcedId',
      reason: expect.stringMatching(/^The enrolment e7 is deleted by its id alone/) as string,
    },
  ])
})

test('names of one word and ids that begin like a formula come back from our own roster', () => {
  const student = (id: string, name: string, candidate: string, externalId: string | null) => ({
    id,
    name,
    candidate,
    externalId,
    signIn: '=sum',
    stays: [{ sectionId: 's1', from: '2026-09-07', to: null }],
  })
  const roll = {
    sections: [{ id: 's1', code: '+A', name: 'Alidade', teacher: null, teacherId: null, weekdays: [1], firstDay: null }],
    students: [student('1', 'Sukarno', '-x1', '=x-1'), student('2', '@Ann Lee', '@2', null)],
  }
  const course = { id: 'c', code: 'F', title: 'Fieldwork', term: 'autumn', firstDay: '2026-09-07', lastDay: '2026-12-18' }
  const files = unzipBounded(writeOneRoster(course, roll, OWN_NAMES))
  const [head, first] = new TextDecoder()
    .decode(files.get('users.csv'))
    .split('\r\n')
    .map((row) => row.split(','))
  expect(['givenName', 'familyName'].map((column) => first![head!.indexOf(column)])).toEqual(['Sukarno', '—'])
  const read = readOneRoster(files)
  expect(read.faults).toEqual([])
  expect(read.entries.map((e) => [e.candidate, e.name, e.externalId, e.signIn, e.stays[0]!.section])).toEqual([
    ['-x1', 'Sukarno', '=x-1', '=sum', '+A'],
    ['@2', '@Ann Lee', '', '=sum', '+A'],
  ])
})
