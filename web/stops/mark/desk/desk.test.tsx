import { act, screen, waitFor } from '@testing-library/react'
import { page as whose } from '../../../api/client'
import { routes, type DeskScript, type ReadingBody, type StandardInUse } from '#contract'
import { NOTHING_JUDGED } from '../../../parts/judge/judged'
import { USE } from '../../../testing/data'
import { vault } from '../../../saving/vault'
import { sendWhatWaits } from '../../../session/leave'
import { inPage, Refuses, reload, serverAnswers } from '../../../testing/in-page'
import { DeskScriptView } from './DeskScriptView'

beforeEach(() => {
  localStorage.clear()
  whose.keepKey = btoa('k'.repeat(32))
})

const rubric: StandardInUse = {
  id: 's',
  title: 'Sketch',
  version: 1,
  kind: 'rubric',
  body: {
    criteria: ['Aim', 'Line', 'Scale', 'Relief', 'Key'].map((title) => ({
      id: title.toLowerCase(),
      title,
      ranges: false,
      penalty: false,
      levels: [
        { points: 0, words: `no ${title}`, comment: `No ${title} yet.` },
        { points: 4, words: `good ${title}`, comment: `Good ${title}.` },
      ],
    })),
  },
}
const EMPTY: ReadingBody = { judged: NOTHING_JUDGED, comment: '', criterionComments: {}, notes: '' }
const own = (body: Partial<ReadingBody> = {}, more: Partial<DeskScript['own']> = {}): DeskScript['own'] => ({
  ...EMPTY,
  ...body,
  state: 'draft',
  version: 0,
  mark: null,
  ...more,
})
const scriptOf = (more: Partial<DeskScript> = {}, use: Partial<typeof USE> = {}): DeskScript => ({
  studentId: 'p7',
  label: '4711',
  status: 'in',
  daysLate: 0,
  cameAt: null,
  attempts: [{ number: 1, cameAt: null, kind: 'text', text: 'The ridge runs north.' }],
  assessment: { id: 'sketch', title: 'Sketch', outOf: 40, marking: 'rubric', notes: '', use: { ...USE, ...use } },
  standard: rubric,
  own: own(),
  before: null,
  earlier: [],
  others: [],
  seen: false,
  between: null,
  fixed: null,
  ...more,
})

type Kept = ReadingBody & { version: number; state: 'draft' | 'handed in'; gapMeant: boolean; afterSeeing: boolean }

const STOCK = [{ id: 'k1', words: 'Check the scale bar.', used: 3 }]

/** A server that keeps one reading by version, as the real one does. */
function desk(script = scriptOf(), there: DeskScript['own'] = script.own, person = 'mo', stock: () => unknown = () => STOCK) {
  const row = { ...there }
  const writes: Kept[] = []
  let answers = true
  const server = serverAnswers([
    [
      routes.keepReading,
      (sent: Kept) => {
        const { version, state, gapMeant: _gap, afterSeeing: _seen, ...body } = sent
        if (version !== row.version)
          return new Refuses(409, 'You changed this reading in another window.', {
            ...EMPTY,
            judged: row.judged,
            comment: row.comment,
            version: row.version,
            state: row.state,
          })
        writes.push(sent)
        Object.assign(row, body, { state, version: version + 1 })
        if (!answers) throw new TypeError('Failed to fetch')
        return { version: row.version, mark: state === 'handed in' && !script.assessment.use.hidePoints ? 24 : null, state }
      },
    ],
    [routes.keptComments, stock],
    [routes.keepComment, () => ({ id: 'k1' })],
  ])
  const onDone = jest.fn()
  const page = inPage(<DeskScriptView courseId="c" script={script} onDone={onDone} />, {
    known: [[['me'], { id: person, name: person, look: null }]],
  })
  return {
    ...page,
    server,
    row,
    writes,
    onDone,
    /** From now on what is sent arrives, and the answer does not. */
    loseAnswers: () => void (answers = false),
    answer: () => void (answers = true),
  }
}
const picksOf = (k: ReadingBody | undefined) => k?.judged.picks

test('five criteria and handing in take six keys, and nothing else is asked', async () => {
  const { user, writes, onDone } = desk()
  await user.keyboard('22122{Enter}')
  await waitFor(() => expect(onDone).toHaveBeenCalledTimes(1))
  expect(writes.at(-1)).toMatchObject({ state: 'handed in', gapMeant: false })
  expect(picksOf(writes.at(-1))).toEqual({ aim: 4, line: 4, scale: 0, relief: 4, key: 4 })
})

test('from the first key on nothing is said to be saved until it is', async () => {
  const { user, writes } = desk()
  await user.keyboard('2')
  expect([screen.queryByText(/^✓ saved/), screen.getByText('saving…')]).toEqual([null, expect.anything()])
  await waitFor(() => expect(screen.queryByText('saving…')).toBeNull())
  expect(screen.getByText(/^✓ saved \d/)).toBeTruthy()
  expect(picksOf(writes.at(-1))).toEqual({ aim: 4 })
})

test('a gap is asked about once, by name; handed in again it is meant', async () => {
  const { user, writes, onDone } = desk()
  await user.keyboard('22')
  expect(screen.getByText('3 things not judged yet')).toBeTruthy()
  await user.keyboard('{Control>}{Enter}{/Control}')
  expect(screen.getByText(/^Not judged: Scale, Relief, Key\..*Hand it in again/)).toBeTruthy()
  expect(onDone).not.toHaveBeenCalled()
  await user.keyboard('{Control>}{Enter}{/Control}')
  await waitFor(() => expect(onDone).toHaveBeenCalled())
  expect(writes.at(-1)).toMatchObject({ state: 'handed in', gapMeant: true })
})

test('once the other’s mark was seen, taking back says so first, and is sent as that', async () => {
  const proposal = { mine: false, mark: 22, reason: 'The key is there', agrees: null, answer: null }
  const said = { ...proposal, at: '2026-11-20T10:00:00.000Z', withdrawn: false, holds: true }
  const { user, writes } = desk(
    scriptOf({ own: own({}, { state: 'handed in', version: 3, mark: 24 }), seen: true, between: { other: 18, said: [said], proposal } }),
  )
  expect(screen.getByRole('region', { name: 'Between the two of you' }).textContent).toMatch(/You gave 24, the other reader 18/)
  expect(screen.getByText('The key is there')).toBeTruthy()
  expect(screen.getByRole('button', { name: 'Agree' })).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Take it back' }))
  expect(writes).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Take it back all the same' }))
  await waitFor(() => expect(writes.at(-1)).toMatchObject({ state: 'draft', afterSeeing: true }))
})

test('what is handed in is shown as such, and taken back', async () => {
  const { user, writes } = desk(scriptOf({ own: own({}, { state: 'handed in', version: 3, mark: 24 }) }))
  expect(screen.getByText('24').closest('span')!.textContent).toBe('Handed in: 24 of 40')
  expect(screen.queryByRole('button', { name: /Hand in/ })).toBeNull()
  await user.click(screen.getByRole('button', { name: 'Take it back' }))
  await waitFor(() => expect(writes.at(-1)?.state).toBe('draft'))
  expect(screen.getByRole('button', { name: /Hand in, next/ })).toBeTruthy()
})

test('where something was built on it there is no taking back, and the reason is said', () => {
  desk(scriptOf({ own: own({}, { state: 'handed in', version: 3, mark: 24 }), fixed: 'A mark was agreed on it.' }))
  expect(screen.queryByRole('button', { name: 'Take it back' })).toBeNull()
  expect(screen.getByText('A mark was agreed on it.')).toBeTruthy()
})

test('a comment kept ready comes with its level and goes with it, unless something else was written', async () => {
  const { user } = desk(scriptOf({}, { criterionComments: true }))
  await user.keyboard('2')
  const aim = screen.getByLabelText<HTMLTextAreaElement>(/comment.*Aim/i)
  expect(aim.value).toBe('Good Aim.')
  await user.click(screen.getByRole('radio', { name: /no Aim/ }))
  expect(aim.value).toBe('No Aim yet.')
  await user.type(aim, ' Say why.')
  await user.click(screen.getByRole('radio', { name: /good Aim/ }))
  expect(aim.value).toBe('No Aim yet. Say why.')
})

test('one’s stock of comments is found by typing, and Enter puts the first in', async () => {
  const { user, writes } = desk()
  await user.type(screen.getByLabelText('For the student'), 'Neat.')
  const stock = screen.getByLabelText('Find in your stock of comments')
  await user.type(stock, 'scale{Enter}')
  await waitFor(() => expect(screen.getByLabelText<HTMLTextAreaElement>('For the student').value).toBe('Neat.\nCheck the scale bar.'))
  await user.type(stock, 'nonsense')
  expect(screen.getByText('Nothing in your stock says that.')).toBeTruthy()
  await waitFor(() => expect(writes.at(-1)?.comment).toBe('Neat.\nCheck the scale bar.'))
})

test('Enter pressed before the stock has come counts once it is here', async () => {
  let come = (_: unknown): void => undefined
  const coming = new Promise((done) => (come = done))
  const { user } = desk(undefined, undefined, undefined, () => coming)
  const stock = screen.getByLabelText('Find in your stock of comments')
  await user.type(stock, 'scale{Enter}')
  expect(screen.getByText('Fetching your stock…')).toBeTruthy()
  come(STOCK)
  await waitFor(() => expect(screen.getByLabelText<HTMLTextAreaElement>('For the student').value).toBe('Check the scale bar.'))
})

test('while points are hidden no mark is said, before or after handing in', async () => {
  const { user, onDone } = desk(scriptOf({}, { hidePoints: true }))
  await user.keyboard('22222')
  expect(screen.getByText('All judged.')).toBeTruthy()
  await user.keyboard('{Enter}')
  await waitFor(() => expect(onDone).toHaveBeenCalled())
  expect(document.body.textContent).not.toMatch(/of 40/)
})

test('with the server away the reading waits here, also over a reload, and is sent when it is back', async () => {
  const { user, server } = desk()
  server.away = true
  await user.keyboard('22')
  expect((await screen.findByRole('alert')).textContent).toMatch(/kept here and sent when it is back/)
  reload()
  const again = desk()
  expect(screen.getByText('3 things not judged yet')).toBeTruthy()
  await waitFor(() => expect(picksOf(again.row)).toEqual({ aim: 4, line: 4 }))
  expect(vault.names()).toEqual([])
})

test('signing out sends first what was typed a moment before', async () => {
  const { user, writes } = desk()
  await user.keyboard('2')
  expect(writes).toEqual([])
  await act(sendWhatWaits)
  expect(writes.map(picksOf)).toEqual([{ aim: 4 }])
  expect(vault.names()).toEqual([])
})

test('whoever reads the same script next in the same browser does not see it', async () => {
  const { user, server } = desk()
  server.away = true
  await user.keyboard('22')
  await screen.findByRole('alert')
  reload()
  const { writes } = desk(scriptOf(), own(), 'ny')
  expect(screen.getByText('5 things not judged yet')).toBeTruthy()
  expect(writes).toEqual([])
})

test('what arrived without an answer is known again: what was typed since goes on top of it, and nothing is asked', async () => {
  const { user, loseAnswers, answer, row } = desk()
  loseAnswers()
  await user.keyboard('2')
  await screen.findByRole('alert')
  expect(row.version).toBe(1)
  answer()
  await user.keyboard('2')
  await waitFor(() => expect(picksOf(row)).toEqual({ aim: 4, line: 4 }))
  expect(row.version).toBe(2)
  expect(screen.queryByRole('alert')).toBeNull()
})

test('and over a reload likewise', async () => {
  const first = desk()
  first.loseAnswers()
  await first.user.keyboard('2')
  await screen.findByRole('alert')
  const arrived = { ...first.row }
  first.server.away = true
  await first.user.keyboard('1')
  reload()
  const again = desk(scriptOf({ own: arrived }))
  await waitFor(() => expect(picksOf(again.row)).toEqual({ aim: 4, line: 0 }))
  expect(screen.queryByRole('button', { name: 'Keep what is here' })).toBeNull()
})

test('changed in another window, nothing is sent until one has chosen; what is here stays on screen', async () => {
  const elsewhere = own({ judged: { ...NOTHING_JUDGED, picks: { aim: 0 } }, comment: 'From the other window.' }, { version: 5 })
  const { user, row, writes } = desk(scriptOf(), elsewhere)
  await user.keyboard('22')
  expect((await screen.findByRole('alert')).textContent).toMatch(/There 1 of 5 are judged, here 2 of 5 are judged\./)
  await user.keyboard('2')
  expect(writes).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Keep what is here' }))
  await waitFor(() => expect(picksOf(row)).toEqual({ aim: 4, line: 4, scale: 4 }))
  expect(row.version).toBe(6)
  expect(screen.queryByRole('alert')).toBeNull()
})

test('or one takes what is there', async () => {
  const elsewhere = own({ judged: { ...NOTHING_JUDGED, picks: { aim: 0 } }, comment: 'From the other window.' }, { version: 5 })
  const { user, row, writes } = desk(scriptOf(), elsewhere)
  await user.keyboard('22')
  await user.click(await screen.findByRole('button', { name: 'Take what is there' }))
  expect(screen.queryByText('✕ not saved')).toBeNull()
  expect(screen.getByLabelText<HTMLTextAreaElement>('For the student').value).toBe('From the other window.')
  expect(screen.getByText('4 things not judged yet')).toBeTruthy()
  await user.type(screen.getByLabelText('For the student'), ' And on.')
  await waitFor(() => expect(row.comment).toBe('From the other window. And on.'))
  expect(writes).toHaveLength(1)
})

test('a new attempt: the reading before it is named, and the new one starts from it', () => {
  desk(
    scriptOf({
      before: { attempt: 1, mark: 24 },
      own: own({ judged: { ...NOTHING_JUDGED, picks: { aim: 4 } } }, { version: 2 }),
      attempts: [1, 2].map((number) => ({ number, cameAt: '2026-11-09T08:00:00Z', kind: 'text' as const, text: `attempt ${number} says` })),
    }),
  )
  expect(screen.getByRole('note').textContent).toMatch(/Your reading of attempt 1, 24, stands until you hand in this one/)
  expect(screen.getByText('attempt 2 says')).toBeTruthy()
})

test('a judgement is undone with Ctrl+Z, and done again; with the script its steps end', async () => {
  const { user, row, show } = desk()
  await user.keyboard('21')
  await waitFor(() => expect(picksOf(row)).toEqual({ aim: 4, line: 0 }))
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(picksOf(row)).toEqual({ aim: 4 }))
  await user.keyboard('{Control>}{Shift>}z{/Shift}{/Control}')
  await waitFor(() => expect(picksOf(row)).toEqual({ aim: 4, line: 0 }))
  show(<p>another</p>)
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Undo' }).disabled).toBe(true)
})

test('handed in without a connection it is handed in once the server is back, and a reload does not change that', async () => {
  const { user, server, onDone } = desk()
  await user.keyboard('22122')
  server.away = true
  await user.keyboard('{Enter}')
  expect(await screen.findByText(/It is handed in as soon as the server is back/)).toBeTruthy()
  expect(onDone).not.toHaveBeenCalled()
  reload()
  const again = desk(scriptOf())
  await waitFor(() => expect(again.writes.at(-1)).toMatchObject({ state: 'handed in' }))
  expect(picksOf(again.writes.at(-1))).toEqual({ aim: 4, line: 4, scale: 0, relief: 4, key: 4 })
})

test('who has seen how others read it takes their own back only with that said', async () => {
  const others = [{ marker: 'another reader', mark: 30, picks: null, judgement: null, comment: null, criterionComments: null, notes: null }]
  const handedIn = own({ judged: { ...NOTHING_JUDGED, picks: { aim: 0 } } }, { state: 'handed in', version: 3, mark: 0 })
  const { user, writes } = desk(scriptOf({ own: handedIn, others, seen: true }))
  await user.click(screen.getByRole('button', { name: 'Take it back' }))
  expect(screen.getByText(/the lead sees what you change after that/)).toBeTruthy()
  expect(writes).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Take it back all the same' }))
  await waitFor(() => expect(writes.at(-1)).toMatchObject({ state: 'draft', afterSeeing: true }))
})
