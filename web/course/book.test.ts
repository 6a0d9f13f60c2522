import { STATUSES } from '#core/grades'
import { packTable, routes, type CourseTable, type TableCell, type TableSince } from '#contract'
import { addressOf, page } from '../api/client'
import { tableCell } from '../testing/data'
import { smallTable } from '../testing/small-course'
import { CourseBook, type AdoptedCourse, type Fetched, type WrittenFrom } from './book'

const SCRIPTS: Parameters<typeof smallTable>[0] = ['ada', 'bo', 'cy', 'di'].flatMap((s): Parameters<typeof smallTable>[0][number][] => [
  [s, 'paper', 20],
  [s, 'essay', 10],
])
let table: CourseTable
let since: TableSince | 'refused'
let asked: string[]
beforeEach(() => {
  table = smallTable(SCRIPTS)
  since = null
  asked = []
  global.fetch = async (input) => {
    const address = String(input)
    asked.push(address)
    const whole = address === addressOf(routes.table, { courseId: 'c' })
    if (!whole && since === 'refused')
      return { ok: false, status: 403, json: async () => ({ status: 403, detail: 'Not for you.' }) } as Response
    return { ok: true, status: 200, json: async () => structuredClone(whole ? packTable(table) : since) } as Response
  }
})

const course = (fetched: Fetched): AdoptedCourse => {
  if (!('course' in fetched)) throw new Error('nothing was fetched')
  return fetched.course
}
const write = (version: number, more: Partial<WrittenFrom> = {}): WrittenFrom => ({
  from: 1,
  version,
  hasMarks: true,
  plan: null,
  cells: [tableCell('ada', 'paper', 40)],
  ...more,
})
/** As the server tells it. */
const plain = ({ from: _, ...written }: WrittenFrom): NonNullable<TableSince> => written

test('all of a course is fetched once, then what was written since; the echo of what is there changes nothing', async () => {
  const book = new CourseBook()
  const first = course(await book.fetch('c', 'ines'))
  expect(page.personId).toBe('ines')
  since = plain(write(2))
  const second = course(await book.fetch('c', 'ines'))
  expect(second.version).toBe(2)
  expect(second.revision).toBeGreaterThan(first.revision)
  // What a mark leaves as it is, is not told again.
  expect([first.plan?.students, second.plan]).toEqual([table.students, null])
  expect(second.graded.table.final[0]).toBe(75)
  expect(first.graded.table.final[0]).toBe(50)
  expect(course(await book.fetch('c', 'ines'))).toBe(second)
  expect(asked).toEqual(['/api/courses/c/table', '/api/courses/c/table/since/1', '/api/courses/c/table/since/2'])
})

test('what a write has told is taken without asking; told late it changes nothing, and where it is not enough all is fetched', async () => {
  const book = new CourseBook()
  await book.fetch('c', null, write(2))
  expect(asked).toEqual(['/api/courses/c/table'])
  const told = course(await book.fetch('c', null, write(3)))
  expect([told.version, told.graded.table.final[0]]).toEqual([3, 75])
  const late = write(2, { cells: [{ ...write(2).cells[0]!, entered: 0 }] })
  expect(course(await book.fetch('c', null, late))).toBe(told)
  expect(asked).toHaveLength(1)
  table = smallTable(SCRIPTS, [], { version: 4 })
  since = null
  const unknown = write(4, { cells: [{ ...write(4).cells[0]!, studentId: 'newcomer' }] })
  expect(course(await book.fetch('c', null, unknown)).version).toBe(4)
  expect(asked.slice(1)).toEqual(['/api/courses/c/table/since/3', '/api/courses/c/table'])
})

test('where more has changed, or it names somebody unknown, all is fetched again', async () => {
  const book = new CourseBook()
  await book.fetch('c', null)
  table = smallTable(SCRIPTS, [], { version: 5 })
  expect(course(await book.fetch('c', null)).version).toBe(5)
  since = plain(write(6, { cells: [{ ...write(6).cells[0]!, studentId: 'newcomer' }] }))
  table = smallTable(SCRIPTS, [], { version: 6 })
  expect(course(await book.fetch('c', null)).version).toBe(6)
  expect(asked.filter((a) => a.endsWith('/table'))).toHaveLength(3)
})

test('a decision brings another plan to the same marks', async () => {
  const book = new CourseBook()
  await book.fetch('c', null)
  const { scripts: _, readings: __, ...plan } = smallTable(SCRIPTS, [], { version: 2, boundaries: [{ grade: 'All', from: 0 }] })
  since = plain(write(2, { cells: [], plan }))
  const decided = course(await book.fetch('c', null))
  expect(decided.graded.boundaries).toEqual([{ grade: 'All', from: 0 }])
  expect(asked).toHaveLength(2)
})

test('a trial is worked out on what is there, and figures are of the trial; what cannot be in force leaves none', async () => {
  const book = new CourseBook()
  await book.fetch('c', null)
  const bound = [
    { grade: 'Merit', from: 45 },
    { grade: 'Refer', from: 0 },
  ]
  const { tried, revision } = book.tryOut([{ kind: 'bound', boundaries: bound }])
  expect(tried!.change.movers).toHaveLength(4)
  expect((await book.ask('bound', [1])).boundaries).toEqual(bound)
  expect(book.tryOut([])).toEqual({ revision: revision + 1, tried: null })
  expect((await book.ask('bound', [1])).boundaries).toEqual(table.boundaries)
  const falling = {
    id: 'f',
    assessmentId: 'paper',
    outOf: 40,
    sectionIds: null,
    method: { kind: 'line' as const, from: [0, 10] as [number, number], to: [40, 5] as [number, number] },
    on: true,
    neverLower: false,
    above: 'allow' as const,
    step: null,
  }
  expect(() => book.tryOut([{ kind: 'adjust', adjustment: falling }])).toThrow('The line falls')
  expect((await book.ask('compare', ['paper'])).sections).toHaveLength(2)
})

describe('marks on their way', () => {
  const MARK = { studentId: 'ada', assessmentId: 'paper', status: STATUSES[0], daysLate: 0, mark: 40 }

  test('are worked out beside the course, which takes them once they are what was written: nothing is told twice', async () => {
    const book = new CourseBook()
    const ada = async () => (await book.ask('compare', ['paper'])).sections[0]!.people.find((p) => p.id === 'ada')!.value
    const before = course(await book.fetch('c', null))
    const foretold = book.foretellMarks([MARK])!
    expect(foretold.cells).toEqual(write(2).cells)
    expect([foretold.graded.table.final[0], before.graded.table.final[0]]).toEqual([75, 50])
    expect(await ada()).toBe(20)
    expect(await book.fetch('c', null, write(2), true)).toEqual({ asForetold: { revision: before.revision + 1 } })
    expect(await ada()).toBe(40)
    const now = course(await book.fetch('c', null, write(2)))
    expect([now.version, now.graded]).toEqual([2, foretold.graded])
    expect(asked).toEqual(['/api/courses/c/table'])
  })

  test('that the page does not show yet are told as any other', async () => {
    const book = new CourseBook()
    await book.fetch('c', null)
    const foretold = book.foretellMarks([MARK])!
    const { graded, items, scripts, toSettle } = course(await book.fetch('c', null, write(2)))
    expect({ on: 1, graded, items, scripts, toSettle, cells: write(2).cells }).toEqual(foretold)
  })

  test('are left out where something else was written, or the course has become another meanwhile', async () => {
    const book = new CourseBook()
    await book.fetch('c', null)
    book.foretellMarks([MARK])
    const other = write(2, { cells: [{ ...write(2).cells[0]!, entered: 0 }] })
    expect(course(await book.fetch('c', null, other, true)).graded.table.final[0]).toBe(25)
    const stale = book.foretellMarks([{ ...MARK, studentId: 'bo' }])!
    since = plain(write(3))
    await book.fetch('c', null)
    const late = course(await book.fetch('c', null, write(4, { cells: stale.cells as TableCell[] }), true))
    expect([late.version, [...late.graded.table.final.slice(0, 2)]]).toEqual([4, [75, 75]])
  })

  test('that the page tells of from a version that is not here are asked for with all that was written before them', async () => {
    const book = new CourseBook()
    await book.fetch('c', null)
    book.foretellMarks([MARK])
    since = plain(write(3, { cells: [tableCell('ada', 'paper', 40), tableCell('bo', 'paper', 40)] }))
    const now = course(await book.fetch('c', null, write(3, { from: 2 }), true))
    expect([now.version, [...now.graded.table.final.slice(0, 2)]]).toEqual([3, [75, 75]])
    expect(asked).toEqual(['/api/courses/c/table', '/api/courses/c/table/since/1'])
  })

  test('are not foretold before the course is there, nor where readings or nobody in the course decide', async () => {
    const book = new CourseBook()
    expect(book.foretellMarks([MARK])).toBeNull()
    table = smallTable(SCRIPTS, [['ada', 'essay', 'mo', 12]])
    await book.fetch('c', null)
    expect(book.foretellMarks([{ ...MARK, studentId: 'newcomer' }])).toBeNull()
    expect(book.foretellMarks([MARK, { ...MARK, assessmentId: 'essay' }])).toBeNull()
    expect(book.foretellMarks([MARK])).not.toBeNull()
  })
})

test('what may be tried next is worked out beside what is tried, and is then tried as it was worked out', async () => {
  const book = new CourseBook()
  await book.fetch('c', null)
  const to = (from: number) => [
    {
      kind: 'bound' as const,
      boundaries: [
        { grade: 'Merit', from },
        { grade: 'Refer', from: 0 },
      ],
    },
  ]
  const { revision } = book.tryOut(to(45))
  const foretold = book.foretell(7, to(60))
  expect((await book.ask('bound', [1])).boundaries).toEqual(to(45)[0]!.boundaries)
  expect(book.tryForetold(8)).toBeNull()
  expect(book.tryForetold(7)).toBe(revision + 1)
  expect((await book.ask('bound', [1])).boundaries).toEqual(to(60)[0]!.boundaries)
  expect(book.tryOut(to(60)).tried).toEqual(foretold)
  // Of another course it says nothing, nor for ever.
  for (const id of [8, 9, 10, 11]) book.foretell(id, to(id))
  expect([7, 8, 11].map((id) => book.tryForetold(id) !== null)).toEqual([false, true, true])
  since = plain(write(2, { cells: [], plan: null }))
  await book.fetch('c', null)
  expect(book.tryForetold(11)).toBeNull()
})

test('what the server refuses is told, and what was there stays', async () => {
  const book = new CourseBook()
  await book.fetch('c', null)
  since = 'refused'
  expect(await book.fetch('c', null)).toMatchObject({ refused: { status: 403 } })
  global.fetch = async () => {
    throw new TypeError('Failed to fetch')
  }
  expect(await book.fetch('c', null)).toEqual({ offline: true })
  expect((await book.ask('compare', ['paper'])).sections[0]!.people).toHaveLength(2)
})

test('a figure that takes long is worked out in pieces, and of the course as it was asked for: what is asked meanwhile is answered first', async () => {
  let now = 0
  const clock = jest.spyOn(performance, 'now').mockImplementation(() => (now += 1000))
  const book = new CourseBook()
  await book.fetch('c', null)
  const answered: string[] = []
  const long = book.ask('sure', [{ paper: 2, essay: 1 }]).then((sure) => {
    answered.push('sure')
    return sure
  })
  book.tryOut([{ kind: 'bound', boundaries: [{ grade: 'All', from: 0 }] }])
  await book.ask('reconcile', [null]).then(() => answered.push('reconcile'))
  const { lines, unknown } = await long
  expect(answered).toEqual(['reconcile', 'sure'])
  expect(lines.map((l) => l.grade)).toEqual(['Merit', 'Pass'])
  expect(unknown).toEqual([])
  clock.mockRestore()
})
