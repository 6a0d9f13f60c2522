import { act, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { sheetByCell, routes, type Cell, type CellState, type CellWrite, type SheetByCell } from '#contract'
import { cell } from '../../../testing/data'
import { inPage, Refuses, reload, serverAnswers } from '../../../testing/in-page'
import { cellsOf } from './cells'
import type { CountsAs } from './counts-as'
import { MarkSheet } from './MarkSheet'
import { page as whose } from '../../../api/client'
import { forgetKept } from '../../../saving/useKept'

let mockRescaled: CountsAs | undefined
const mockTable = { version: undefined as number | undefined, take: jest.fn(), expect: jest.fn() }
jest.mock('../../../course/course', () => ({
  useFiguresIfKnown: () => mockRescaled,
  useWrittenTo: () => ({ version: () => mockTable.version, take: mockTable.take, expect: mockTable.expect }),
}))
beforeEach(() => {
  mockRescaled = undefined
  mockTable.version = undefined
  mockTable.take.mockClear()
  mockTable.expect.mockClear()
})

// As large as the screen that one works at: nothing is laid out here.
beforeAll(() => {
  const size = { clientWidth: 880, clientHeight: 600 }
  for (const [name, value] of Object.entries(size)) Object.defineProperty(HTMLElement.prototype, name, { configurable: true, value })
})
beforeEach(() => {
  localStorage.clear()
  forgetKept()
  whose.keepKey = btoa('k'.repeat(32))
})

const ASSESSMENTS = [
  { id: 'paper', title: 'Paper', outOf: 40, passMark: 16, labels: null },
  { id: 'talk', title: 'Talk', outOf: 20, passMark: null, labels: [{ label: 'sound', percent: 60, threshold: 45 }] },
]
const sheetOf = (cells: Cell[]): SheetByCell =>
  sheetByCell({
    version: 1,
    sections: [
      { id: 'e', name: 'East' },
      { id: 'w', name: 'West' },
    ] as SheetByCell['sections'],
    students: ['Ada', 'Bo', 'Cy'].map((name, i) => ({
      id: name.toLowerCase(),
      name,
      candidate: String(100 + i),
      sectionId: i < 2 ? 'e' : 'w',
    })),
    assessments: ASSESSMENTS.map((a) => ({
      ...a,
      marking: 'direct' as const,
      componentId: 'x',
      bonus: a.id === 'talk',
      blind: false,
      byStanding: null,
    })),
    placements: ['e', 'w'].flatMap((sectionId) => ASSESSMENTS.map((a) => ({ assessmentId: a.id, sectionId, due: '2026-11-16' }))),
    term: { firstDay: '2026-09-07', lastDay: '2026-12-18' },
    overTolerance: [],
    exceptions: {},
    cells,
    writable: true,
  })

type Refusing = (w: CellWrite) => { kind: 'range' | 'stale'; message: string; current: Cell | null } | null

/** @param answers the server answers no write before */
function sheet(cells: Cell[] = [], refuse: Refusing = () => null, answers: Promise<unknown> = Promise.resolve(), states: CellState[] = []) {
  const stored = new Map<string, Cell>()
  const server = serverAnswers([
    [
      routes.writeCells,
      async ({ cells: written, tableVersion: had }: { cells: CellWrite[]; tableVersion?: number }) => {
        await answers
        const answer = { saved: [] as Cell[], refused: [] as object[] }
        for (const w of written) {
          const refusal = refuse(w)
          if (refusal) answer.refused.push({ studentId: w.studentId, assessmentId: w.assessmentId, ...refusal })
          else {
            const { remark: _, ...value } = w
            const saved = { ...value, version: w.version + 1, fromReadings: null }
            stored.set(`${w.studentId} ${w.assessmentId}`, saved)
            answer.saved.push(saved)
          }
        }
        return had === undefined ? answer : { ...answer, since: { version: had + 1, hasMarks: true, cells: [], plan: null } }
      },
    ],
    [routes.cellStates, () => states],
  ])
  const page = inPage(<MarkSheet courseId="c" sheet={sheetOf(cells)} nav={null} />, {
    known: [[['me'], { id: 'ines', name: 'Ines Valdry' }]],
  })
  const at = (name: RegExp) => screen.getByRole('gridcell', { name })
  const saved = (key: string) => {
    const c = stored.get(key)
    return c && [c.mark, c.status, c.daysLate]
  }
  return { ...page, server, answer: server.answer, stored, at, saved, go: (name: RegExp) => fireEvent.mouseDown(at(name)) }
}

test('a write says which table the page has, the course hears what is on its way, and takes what it is told', async () => {
  mockTable.version = 7
  const { user, go, server, saved } = sheet()
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}')
  expect(mockTable.expect.mock.calls).toEqual([
    [[{ studentId: 'ada', assessmentId: 'paper', mark: 31, status: 'in', daysLate: 0, version: 0 }]],
  ])
  await waitFor(() => expect(saved('ada paper')).toEqual([31, 'in', 0]))
  expect(server.sent[0]!.body).toMatchObject({ tableVersion: 7 })
  await waitFor(() => expect(mockTable.take).toHaveBeenCalledWith({ from: 7, version: 8, hasMarks: true, cells: [], plan: null }))
})

test('digits begin to type, Enter saves and goes down, Tab to the right, Esc leaves it as it was', async () => {
  let answer: () => void = () => undefined
  const { user, go, saved, at } = sheet([], () => null, new Promise<void>((go) => (answer = go)))
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}')
  expect(screen.queryByText(/^✓ saved/)).toBeNull()
  expect(at(/^Paper, Bo/).dataset.here).toBe('true')
  await user.keyboard('28.5{Tab}')
  expect(at(/^Talk, Bo/).dataset.here).toBe('true')
  await user.keyboard('9{Escape}')
  answer()
  await waitFor(() =>
    expect([saved('ada paper'), saved('bo paper'), saved('bo talk')]).toEqual([[31, 'in', 0], [28.5, 'in', 0], undefined]),
  )
  expect(at(/^Paper, Ada: 31$/).className).not.toContain('unsaved')
})

test('what is being typed as the sheet goes, because the sign-in has ended, is saved', async () => {
  const { user, go, saved, show } = sheet()
  go(/^Paper, Ada/)
  await user.keyboard('23')
  show(<p>Sign in</p>)
  await waitFor(() => expect(saved('ada paper')).toEqual([23, 'in', 0]))
})

test('what somebody else saves in a sorted sheet moves nobody from under the mark that is being typed', async () => {
  const marks = (ada: number) => [cell('ada', 'paper', ada), cell('bo', 'paper', 20), cell('cy', 'paper', 30)]
  const { user, go, stored, show } = sheet(marks(10))
  await user.click(screen.getByRole('button', { name: /^Paper/ }))
  act(() => (document.activeElement as HTMLElement).blur())
  go(/^Paper, Ada/)
  await user.keyboard('2')
  show(<MarkSheet courseId="c" sheet={sheetOf(marks(35))} nav={null} />)
  await user.keyboard('5{Enter}')
  await waitFor(() => expect([...stored.keys()]).toEqual(['ada paper']))
  expect(stored.get('ada paper')!.mark).toBe(25)
})

test('a letter is a status, “17 late 2” and “17 late 20 Nov” are days late, a label is its percent', async () => {
  const { user, go, saved } = sheet()
  for (const [who, typed] of [
    [/^Paper, Ada/, 'm'],
    [/^Paper, Bo/, '17 late 2'],
    [/^Paper, Cy/, '17 late 20 Nov'],
    [/^Talk, Ada/, 'sound'],
  ] as const) {
    go(who)
    await user.keyboard(`${typed}{Enter}`)
  }
  await waitFor(() => expect(saved('ada talk')).toEqual([12, 'in', 0]))
  expect([saved('ada paper'), saved('bo paper'), saved('cy paper')]).toEqual([
    [null, 'missing', 0],
    [17, 'late', 2],
    [17, 'late', 4],
  ])
})

test('what is no mark stays in its cell with the reason, and nothing of it is sent', async () => {
  const { user, go, server, at } = sheet()
  go(/^Paper, Ada/)
  await user.keyboard('41{Enter}')
  expect(at(/^Paper, Ada: pending\. Not saved: /).textContent).toBe('41')
  expect(screen.getByText(/1 cell is not saved/)).toBeTruthy()
  // The cell beneath has the focus by now: what became of the one before is said.
  expect(screen.getAllByRole('status').map((s) => s.textContent)).toContainEqual(expect.stringMatching(/^Not saved: Paper, Ada\. .*40/))
  go(/^Paper, Ada/)
  expect(screen.getByRole('alert').textContent).toMatch(/^Not saved: .*40/)
  await user.keyboard('{Enter}{Control>}a{/Control}39{Enter}')
  await waitFor(() => expect(server.sent).toHaveLength(1))
  expect(screen.queryByText(/not saved/)).toBeNull()
})

test('a pasted block fills cells, leaves its blanks alone, and is one step of undo', async () => {
  const { user, go, saved, server } = sheet([cell('bo', 'paper', 20)])
  go(/^Paper, Ada/)
  fireEvent.paste(screen.getByRole('grid'), { clipboardData: { getData: () => '30\t15\r\n\t16\r\n12\tx\r\n' } })
  await waitFor(() => expect(server.sent).toHaveLength(1))
  expect([saved('ada paper'), saved('ada talk'), saved('bo paper'), saved('bo talk'), saved('cy paper')].map((c) => c?.[0])).toEqual([
    30,
    15,
    undefined,
    16,
    12,
  ])
  expect(screen.getByText(/1 cell is not saved/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Undo: paste 4 cells' }))
  await waitFor(() => expect(saved('cy paper')).toEqual([null, 'in', 0]))
})

test('marks of a file are one step of undo; a cell that was changed since is left, and that is said', async () => {
  const was = { mark: null, status: 'in', daysLate: 0 }
  const changed = ['ada', 'bo'].map((studentId) => ({ studentId, assessmentId: 'paper', mark: 20, status: 'in', daysLate: 0, was }))
  // As it stands when the file was brought in, and somebody gave Bo another mark.
  const { user, saved, answer } = sheet([cell('ada', 'paper', 20), cell('bo', 'paper', 35)])
  const counts = { added: 2, changed: 0, unchanged: 0, refused: 0 }
  answer(routes.tryImport, () => ({ counts, rows: [], unlisted: 0, notes: [], sheets: [], table: null }))
  answer(routes.bringIn, () => ({ counts, rows: [], unlisted: 0, notes: [], sheets: [], table: null, changed }))
  await user.keyboard('b')
  fireEvent.paste(screen.getByLabelText('Paste the file’s text'), { clipboardData: { getData: () => 'candidate,Paper' } })
  await user.click(await screen.findByRole('button', { name: 'Bring in 2 marks' }))
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  await user.click(screen.getByRole('button', { name: 'Undo: bring a pasted file in' }))
  await waitFor(() => expect(saved('ada paper')).toEqual([null, 'in', 0]))
  expect(saved('bo paper')).toBeUndefined()
  expect(screen.getByText(/one cell was changed since and left/)).toBeTruthy()
})

test('Ctrl+D fills the blanks beneath, and no cell that has something', async () => {
  const { user, go, saved, stored } = sheet([cell('ada', 'paper', 25), cell('bo', 'paper', null, { status: 'absent' })])
  go(/^Paper, Ada/)
  await user.keyboard('{Control>}d{/Control}')
  await waitFor(() => expect(saved('cy paper')).toEqual([25, 'in', 0]))
  expect([...stored.keys()]).toEqual(['cy paper'])
})

test('the close-up sets a status and the day it came', async () => {
  const { user, go, saved } = sheet([cell('ada', 'paper', 25)])
  go(/^Paper, Ada/)
  await user.click(within(screen.getByRole('group', { name: 'Status' })).getByRole('button', { name: 'late' }))
  fireEvent.change(await screen.findByLabelText('The day it came'), { target: { value: '2026-11-19' } })
  await waitFor(() => expect(saved('ada paper')).toEqual([25, 'late', 3]))
  await user.click(screen.getByRole('button', { name: 'exempt' }))
  await waitFor(() => expect(saved('ada paper')).toEqual([null, 'exempt', 0]))
})

test('what the server refuses stays in its cell with the reason; the rest is saved', async () => {
  const { user, go, saved, at } = sheet([], (w) =>
    w.studentId === 'bo' ? { kind: 'range', message: 'It is marked out of 30 since a minute.', current: null } : null,
  )
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}32{Enter}')
  await waitFor(() => expect(at(/^Paper, Bo: .*Not saved: It is marked out of 30/).textContent).toBe('32'))
  expect(saved('ada paper')).toEqual([31, 'in', 0])
})

test('a clash shows both values and asks; one’s own goes on top of what is there now', async () => {
  const theirs = cell('ada', 'paper', 12, { version: 7 })
  const { user, go, saved, server } = sheet([cell('ada', 'paper', 10)], (w) =>
    w.version < 7 ? { kind: 'stale', message: 'Somebody changed it.', current: theirs } : null,
  )
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}')
  await waitFor(() => expect(server.sent).toHaveLength(1))
  go(/^Paper, Ada/)
  expect((await screen.findByRole('alert')).textContent).toMatch(/You typed 31; meanwhile somebody put 12 there/)
  await user.click(screen.getByRole('button', { name: 'Put mine there' }))
  await waitFor(() => expect(saved('ada paper')).toEqual([31, 'in', 0]))
  expect(screen.queryByRole('alert')).toBeNull()
})

test('with the server away what is typed is kept for a reload, and is sent by the page that opens then', async () => {
  const { user, go, server, at } = sheet()
  server.away = true
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}')
  expect(await screen.findByText('✕ not saved')).toBeTruthy()
  expect(at(/^Paper, Ada: 31$/).className).toContain('unsaved')
  reload()
  const later = sheet()
  await waitFor(() => expect(later.saved('ada paper')).toEqual([31, 'in', 0]))
})

test('signed out meanwhile, what is typed waits for the same person', async () => {
  const { user, go } = sheet()
  serverAnswers([[routes.writeCells, () => new Refuses(401, 'Sign in first.')]])
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}')
  expect((await screen.findByText('✕ not saved')).title).toBe('Sign in first.')
  reload()
  const later = sheet()
  await waitFor(() => expect(later.saved('ada paper')).toEqual([31, 'in', 0]))
})

test('a course that takes no marks says so and shows what stands', async () => {
  const { user, go } = sheet([cell('ada', 'paper', 10)])
  serverAnswers([[routes.writeCells, () => new Refuses(409, 'The results are confirmed.')]])
  go(/^Paper, Ada/)
  await user.keyboard('31{Enter}')
  expect((await screen.findByText('✕ not saved')).title).toBe('The results are confirmed.')
  expect(screen.getByRole('gridcell', { name: /^Paper, Ada: 10$/ })).toBeTruthy()
})

test('one assessment of all sections: one column, with the section, the label and the readings beside it', async () => {
  const { user, go, saved } = sheet([
    cell('ada', 'talk', 12, { status: 'late', daysLate: 1 }),
    cell('cy', 'talk', null, { fromReadings: { mark: 15, readings: 2 } }),
  ])
  await user.selectOptions(screen.getByLabelText('Assessment'), 'Talk')
  expect(screen.queryByRole('columnheader', { name: /Paper/ })).toBeNull()
  expect(screen.getByText('East · sound · late by 1 day')).toBeTruthy()
  expect(screen.getByText('West · sound · 2 readings')).toBeTruthy()
  go(/^Talk, Bo/)
  await user.keyboard('8{Enter}')
  await waitFor(() => expect(saved('bo talk')).toEqual([8, 'in', 0]))
  await user.selectOptions(screen.getByLabelText('Which students'), 'late')
  expect(screen.getByText(/1 of 3 students/)).toBeTruthy()
})

test('a deduction is typed where a bonus may be one, and nowhere else', async () => {
  const { user, go, saved, at } = sheet()
  go(/^Talk, Ada/)
  await user.keyboard('-2{Enter}')
  await waitFor(() => expect(saved('ada talk')).toEqual([-2, 'in', 0]))
  go(/^Paper, Ada/)
  await user.keyboard('-2{Enter}')
  expect(at(/^Paper, Ada: pending\. Not saved: /).textContent).toBe('-2')
})

test('what somebody else puts there while one types is not written over: it is saved with the version that it was typed over', async () => {
  const shown = sheetOf([cell('ada', 'paper', 20)])
  const server = serverAnswers([
    [routes.writeCells, () => ({ saved: [], refused: [] })],
    [routes.cellStates, () => []],
  ])
  const { user } = inPage(<MarkSheet courseId="c" sheet={shown} nav={null} />, { known: [[['me'], { id: 'ines', name: 'Ines Valdry' }]] })
  fireEvent.mouseDown(screen.getByRole('gridcell', { name: /^Paper, Ada/ }))
  await user.keyboard('3')
  cellsOf(shown).put([{ ...cell('ada', 'paper', 25), version: 2 }])
  await user.keyboard('1{Enter}')
  await waitFor(() => expect(server.sent).toHaveLength(1))
  expect((server.sent[0]!.body as { cells: CellWrite[] }).cells).toEqual([
    expect.objectContaining({ mark: 31, version: cell('ada', 'paper', 20).version }),
  ])
})

test('a refused cell is there again when one comes back to the sheet, and is not called saved meanwhile', async () => {
  const { user, go, show } = sheet()
  go(/^Paper, Ada/)
  await user.keyboard('41{Enter}')
  expect(screen.getByText('✕ not saved')).toBeTruthy()
  show(<p>another stop</p>)
  expect(screen.getByText('✕ not saved')).toBeTruthy()
  show(<MarkSheet courseId="c" sheet={sheetOf([])} nav={null} />)
  expect(screen.getByRole('gridcell', { name: /^Paper, Ada: pending\. Not saved: / }).textContent).toBe('41')
  go(/^Paper, Ada/)
  await user.keyboard('{Enter}{Control>}a{/Control}39{Enter}')
  await waitFor(() => expect(screen.queryByText('✕ not saved')).toBeNull())
})

test('a remark for the student is sent when one goes on from it, with the mark that stands; taken back it is what it was', async () => {
  const before: CellState = { at: '2026-11-02T10:00:00.000Z', by: 'Ines Valdry', mark: 31, status: 'in', daysLate: 0, remark: null }
  const { user, go, server } = sheet([cell('bo', 'paper', 31, { version: 2 })], () => null, Promise.resolve(), [
    before,
    { ...before, mark: 30, remark: 'Show the working.' },
  ])
  const writes = () => server.sent.flatMap((s) => (s.body as { cells?: CellWrite[] } | null)?.cells ?? [])
  go(/^Paper, Bo/)
  const field = await screen.findByRole<HTMLTextAreaElement>('textbox', { name: /^Remark for the student/ })
  await waitFor(() => expect(field.value).toBe('Show the working.'))
  await user.type(field, ' Well closed.')
  expect(writes()).toEqual([])
  // Another cell is chosen with the remark still being typed.
  go(/^Paper, Ada/)
  await waitFor(() => expect(writes()).toMatchObject([{ studentId: 'bo', mark: 31, remark: 'Show the working. Well closed.' }]))
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(writes()[1]).toMatchObject({ studentId: 'bo', mark: 31, remark: 'Show the working.' }))
})

test('where readings make the mark no remark is written beside it; one that stands is read there, and can be taken away', async () => {
  const stood: CellState = {
    at: '2026-11-02T10:00:00.000Z',
    by: 'Ines Valdry',
    mark: null,
    status: 'in',
    daysLate: 0,
    remark: 'Well closed.',
  }
  const read = { fromReadings: { mark: 15, readings: 2 }, version: 1 }
  const { user, go, server } = sheet(
    [cell('bo', 'paper', null, read), cell('ada', 'paper', null, { ...read, version: 0 })],
    () => null,
    Promise.resolve(),
    [stood],
  )
  go(/^Paper, Ada/)
  expect(screen.queryByText(/^For the student:/)).toBeNull()
  go(/^Paper, Bo/)
  expect((await screen.findByText('For the student:')).parentElement!.textContent).toContain('Well closed.')
  expect(screen.queryByRole('textbox', { name: /^Remark/ })).toBeNull()
  await user.click(screen.getByRole('button', { name: 'take it away' }))
  await waitFor(() =>
    expect(server.sent.flatMap((s) => (s.body as { cells?: CellWrite[] } | null)?.cells ?? [])).toMatchObject([{ remark: '' }]),
  )
})

test('a rescaled mark is marked as one, says what it counts as, and is shown so on demand; typing still means the mark', async () => {
  mockRescaled = new Map([['paper', new Map([['ada', 33.25]])]])
  const { user, at, go, saved } = sheet([cell('ada', 'paper', 31), cell('bo', 'paper', 20)])
  expect(at(/^Paper, Ada: 31, rescaled, counts as 33\.25$/).textContent).toBe('31')
  expect(at(/^Paper, Ada/).className).toContain('rescaled')
  expect(at(/^Paper, Bo: 20$/).className).not.toContain('rescaled')
  go(/^Paper, Ada/)
  expect(screen.getByText(/^Counts as/).textContent).toBe('Counts as 33.25, as it was rescaled.')
  await user.click(screen.getByRole('button', { name: 'as they count' }))
  expect([at(/^Paper, Ada/).textContent, at(/^Paper, Bo/).textContent]).toEqual(['33.25', '20'])
  expect(screen.getAllByRole('row').at(-1)!.textContent).toContain('26.6')
  go(/^Paper, Bo/)
  go(/^Paper, Ada/)
  await user.keyboard('30{Enter}')
  await waitFor(() => expect(saved('ada paper')).toEqual([30, 'in', 0]))
})

test('where nothing is rescaled there is nothing to choose', () => {
  sheet([cell('ada', 'paper', 31)])
  expect(screen.queryByRole('group', { name: 'Marks shown' })).toBeNull()
})
