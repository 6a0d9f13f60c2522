import type { Change } from '#core/trial'
import { page, ProblemError, OfflineError } from '../api/client'
import { tableCell } from '../testing/data'
import { smallState, smallTable } from '../testing/small-course'
import type { AdoptedCourse, Fetched, ForetoldCourse, TriedCourse } from './book'
import { CourseStore, type Book } from './store'

const bound = (from: number): Change[] => [
  {
    kind: 'bound',
    boundaries: [
      { grade: 'Pass', from },
      { grade: 'Refer', from: 0 },
    ],
  },
]
const { adopted, table } = smallState(smallTable([['ada', 'paper', 20]]))
const course: AdoptedCourse = {
  revision: 1,
  version: 1,
  hasMarks: true,
  plan: table,
  graded: adopted.graded,
  items: [],
  scripts: 1,
  toSettle: 0,
}

const turn = () => new Promise((go) => setImmediate(go))

/** A book whose trials are answered when the test says so. */
function slowBook(fetched: Fetched = { course }) {
  const waiting: { changes: readonly Change[]; answer: (done: TriedCourse) => void; fail: (e: Error) => void }[] = []
  const foretelling: { id: number; changes: readonly Change[]; answer: (done: TriedCourse['tried']) => void; fail: (e: Error) => void }[] =
    []
  const retried: number[] = []
  let revision = course.revision
  let isKnown = true
  const book = {
    fetch: () => Promise.resolve(fetched),
    tryOut: (changes: readonly Change[]) => new Promise<TriedCourse>((answer, fail) => void waiting.push({ changes, answer, fail })),
    ask: () => Promise.resolve(null),
    foretell: (id: number, changes: readonly Change[]) =>
      new Promise<TriedCourse['tried']>((answer, fail) => void foretelling.push({ id, changes, answer, fail })),
    tryForetold: (id: number) => {
      retried.push(id)
      return Promise.resolve(isKnown ? ++revision : null)
    },
  } as unknown as Book
  const change = { percents: 0, movers: [], up: 0, down: 0, gained: 0, lost: 0, renamed: 0, reversed: 0, pairs: [] }
  const answer = (at: number) => waiting[at]!.answer({ revision: ++revision, tried: { graded: adopted.graded, change } })
  const foretold = async (at: number) => {
    foretelling[at]!.answer({ graded: adopted.graded, change })
    await turn()
  }
  return { book, waiting, answer, foretelling, foretold, retried, forget: () => (isKnown = false) }
}

test('while one trial is worked out only the last of those that come after it is', async () => {
  const { book, waiting, answer } = slowBook()
  const store = new CourseStore(book)
  await store.fetch('c')
  const [first, second, third] = [bound(30), bound(31), bound(32)]
  void store.tryOut(first)
  void store.tryOut(second)
  const done = store.tryOut(third)
  answer(0)
  await turn()
  expect(waiting.map((w) => w.changes)).toEqual([first, third])
  answer(1)
  await done
  await turn()
  expect(store.getSnapshot().tried?.changes).toBe(third)
})

test('what was tried ahead of a screen is not worked out again when that screen asks, but is on another course', async () => {
  const { book, waiting, answer } = slowBook()
  const store = new CourseStore(book)
  const [ahead, other] = [bound(30), bound(31)]
  store.tryAhead(ahead)
  expect(waiting).toEqual([])
  await store.fetch('c')
  store.tryAhead(ahead)
  void store.tryOut(ahead)
  answer(0)
  await turn()
  expect(store.getSnapshot().tried?.changes).toBe(ahead)
  expect(waiting.map((w) => w.changes)).toEqual([ahead])
  // Once a screen has asked, whoever asks again means it.
  void store.tryOut(ahead)
  answer(1)
  await turn()
  store.tryAhead(other)
  answer(2)
  await turn()
  void store.tryOut(ahead)
  expect(waiting.map((w) => w.changes)).toEqual([ahead, ahead, other, ahead])
})

test('a screen drawn late, that asks for what it was drawn with, does not take the place of what was tried ahead', async () => {
  const { book, waiting, answer } = slowBook()
  const store = new CourseStore(book)
  await store.fetch('c')
  const [pulled, letGo] = [bound(30), bound(31)]
  store.tryAhead(letGo)
  void store.tryOut(pulled)
  void store.tryOut(letGo)
  for (let at = 0; at < waiting.length; at++) {
    answer(at)
    await turn()
  }
  expect(store.getSnapshot().tried?.changes).toBe(letGo)
})

test('what a write has told goes along with the next fetch, and with no other', async () => {
  const { book } = slowBook()
  const fetch = jest.spyOn(book, 'fetch')
  const store = new CourseStore(book)
  const written = { from: 1, version: 2, hasMarks: true, cells: [], plan: null }
  store.tell(written)
  await store.fetch('c')
  await store.fetch('c')
  expect(fetch.mock.calls.map(([, , told]) => told)).toEqual([written, null])
})

test('a mark leaves what is told of the plan as it is; another plan takes its place', async () => {
  const { book } = slowBook()
  const store = new CourseStore(book)
  const first = await store.fetch('c')
  const say = (told: AdoptedCourse) => jest.spyOn(book, 'fetch').mockImplementation(() => Promise.resolve({ course: told }))
  say({ ...course, revision: 2, version: 2, plan: null })
  const marked = await store.fetch('c')
  expect(marked.table).toEqual({ ...table, version: 2 })
  expect(marked.table.students).toBe(first.table.students)
  say({ ...course, revision: 3, version: 3, plan: { ...table, students: [] } })
  expect((await store.fetch('c')).table.students).toEqual([])
})

test('listeners hear of every change; why a trial cannot be worked out is said until one can', async () => {
  const { book, waiting, answer } = slowBook()
  const store = new CourseStore(book)
  const heard = jest.fn()
  const off = store.subscribe(heard)
  await store.fetch('c')
  void store.tryOut(bound(30))
  waiting[0]!.fail(new Error('The line falls.'))
  await turn()
  expect(store.getSnapshot().problem).toBe('The line falls.')
  void store.tryOut(bound(31))
  answer(1)
  await turn()
  expect(store.getSnapshot().problem).toBeNull()
  const before = heard.mock.calls.length
  off()
  void store.tryOut([])
  waiting[2]!.answer({ revision: 9, tried: null })
  await turn()
  expect(heard).toHaveBeenCalledTimes(before)
  expect(store.getSnapshot()).toMatchObject({ revision: 9, tried: null })
})

test('what the worker could not fetch is an error of the page again, and who was signed out is told', async () => {
  await expect(new CourseStore(slowBook({ offline: true }).book).fetch('c')).rejects.toBeInstanceOf(OfflineError)
  const out = jest.fn()
  Object.assign(page, { personId: 'ines', signedOut: out })
  const refused = { type: 'about:blank', title: 'Refused', status: 401, detail: 'Sign in first.' }
  await expect(new CourseStore(slowBook({ refused }).book).fetch('c')).rejects.toBeInstanceOf(ProblemError)
  expect(out).toHaveBeenCalledTimes(1)
})

describe('a trial that was expected', () => {
  const expecting = async (...trials: Change[][]) => {
    const of = slowBook()
    const store = new CourseStore(of.book)
    await store.fetch('c')
    store.expect(trials)
    for (const at of trials.keys()) await of.foretold(at)
    return { ...of, store }
  }

  test('shows at once, whoever wrote its changes down; it has a revision once the book has it', async () => {
    const { store, waiting, retried, foretelling } = await expecting(bound(30), bound(31))
    const step = bound(31)
    store.tryAhead(step)
    expect(store.getSnapshot()).toMatchObject({ revision: 1, tried: { changes: step }, problem: null })
    const shown = store.getSnapshot().tried
    await turn()
    expect(retried).toEqual([foretelling[1]!.id])
    expect(waiting).toEqual([])
    expect(store.getSnapshot()).toMatchObject({ revision: 2 })
    expect(store.getSnapshot().tried).toBe(shown)
  })

  test('is worked out as any other where the book knows it no more, and where it could not be foretold', async () => {
    const { store, waiting, answer, forget, foretelling } = await expecting(bound(30))
    forget()
    store.tryAhead(bound(30))
    await turn()
    expect(waiting).toHaveLength(1)
    answer(0)
    await turn()
    store.expect([bound(31)])
    foretelling[1]!.fail(new Error('The line falls.'))
    await turn()
    store.tryAhead(bound(31))
    expect(waiting).toHaveLength(2)
    expect(store.getSnapshot().problem).toBeNull()
  })

  test('is not asked for twice, nor kept once others are expected', async () => {
    const { store, waiting, foretelling } = await expecting(bound(30))
    store.expect([bound(30), bound(31)])
    expect(foretelling.map((f) => f.changes)).toEqual([bound(30), bound(31)])
    store.expect([bound(32)])
    store.tryAhead(bound(30))
    expect(waiting).toHaveLength(1)
  })

  test('is one with changes in it: without any there is no trial to show', async () => {
    const { store, foretelling, waiting } = await expecting()
    store.expect([[], bound(30)])
    expect(foretelling.map((f) => f.changes)).toEqual([bound(30)])
    store.tryAhead([])
    waiting[0]!.answer({ revision: 2, tried: null })
    await turn()
    expect(store.getSnapshot().tried).toBeNull()
  })

  test('gives way where the course has become another', async () => {
    const { store, book, waiting } = await expecting(bound(30))
    jest.spyOn(book, 'fetch').mockImplementation(() => Promise.resolve({ course: { ...course, revision: 5 } }))
    await store.fetch('c')
    store.tryAhead(bound(30))
    expect(store.getSnapshot().tried).toBeNull()
    expect(waiting).toHaveLength(1)
  })

  test('is not put back by one before it that is answered late', async () => {
    const { store, waiting, answer } = await expecting(bound(31))
    const [first, second] = [bound(30), bound(31)]
    store.tryAhead(first)
    store.tryAhead(second)
    expect(store.getSnapshot().tried?.changes).toBe(second)
    expect(waiting).toHaveLength(1)
    answer(0)
    await turn()
    expect(store.getSnapshot().tried?.changes).toBe(second)
  })
})

describe('marks that were expected', () => {
  const marks = [{ studentId: 'ada', assessmentId: 'paper', status: 'in' as const, daysLate: 0, mark: 40 }]
  const marked = smallTable([
    ['ada', 'paper', 40],
    ['ada', 'essay', 10],
  ])
  const { graded } = smallState(marked).adopted
  const cells = [tableCell('ada', 'paper', 40)]
  const foretold: ForetoldCourse = { on: 1, cells, graded, items: [], scripts: 1, toSettle: 0 }
  const written = { from: 1, version: 2, hasMarks: true, cells, plan: null }

  const expecting = async (foretells: () => Promise<ForetoldCourse | null>) => {
    const { book } = slowBook()
    Object.assign(book, { foretellMarks: foretells })
    const store = new CourseStore(book)
    await store.fetch('c')
    store.expectMarks(marks)
    await turn()
    const fetch = jest.spyOn(book, 'fetch')
    return { store, fetch }
  }

  test('show at once where they were saved as they are, and stay what they are once the book has taken them', async () => {
    const { store, fetch } = await expecting(async () => foretold)
    const shown = store.tell(written)!
    expect(shown).toMatchObject({ graded, table: { version: 2 }, scripts: 1 })
    expect(shown.result.students[0]!.final).toBe(75)
    fetch.mockResolvedValueOnce({ asForetold: { revision: 2 } })
    expect(await store.fetch('c')).toBe(shown)
    expect(fetch).toHaveBeenCalledWith('c', page.personId, written, true)
    expect(store.getSnapshot().revision).toBe(2)
    expect(store.tell({ ...written, version: 3 })).toBeNull()
  })

  test('are fetched as any other where something else was written, or it could not be foretold', async () => {
    const { store, fetch } = await expecting(async () => foretold)
    const other = { ...written, cells: [{ ...cells[0]!, entered: 39 }] }
    expect(store.tell(other)).toBeNull()
    await store.fetch('c')
    expect(fetch).toHaveBeenCalledWith('c', page.personId, other, false)
    // The page had more than what they were foretold on top of.
    expect((await expecting(async () => foretold)).store.tell({ ...written, from: 2 })).toBeNull()
    for (const foretells of [async () => null, async () => Promise.reject(new Error('no'))])
      expect((await expecting(foretells)).store.tell(written)).toBeNull()
  })

  test('are shown as the book says where it knows better', async () => {
    const { store } = await expecting(async () => foretold)
    const shown = store.tell(written)
    const now = await store.fetch('c')
    expect(now).not.toBe(shown)
    expect(now.graded).toBe(course.graded)
  })

  test('that are answered late do not take the place of those that went off since', async () => {
    const answers: ((course: ForetoldCourse) => void)[] = []
    const { store } = await expecting(() => new Promise((answer) => void answers.push(answer)))
    store.expectMarks([{ ...marks[0]!, mark: 12 }])
    answers[0]!(foretold)
    await turn()
    expect(store.tell(written)).toBeNull()
  })

  test('bring an open trial onto what they have made of the course, once', async () => {
    const { book, waiting } = slowBook()
    Object.assign(book, { foretellMarks: async () => foretold })
    const store = new CourseStore(book)
    await store.fetch('c')
    const trial = bound(30)
    void store.tryOut(trial)
    waiting[0]!.answer({ revision: 2, tried: null })
    await turn()
    store.expectMarks(marks)
    await turn()
    store.tell(written)
    jest.spyOn(book, 'fetch').mockResolvedValueOnce({ asForetold: { revision: 3 } })
    await store.fetch('c')
    expect(waiting.map((w) => w.changes)).toEqual([trial, trial])
  })
})
