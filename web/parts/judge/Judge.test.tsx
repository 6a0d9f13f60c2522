import { cleanup, screen } from '@testing-library/react'
import { useState } from 'react'
import type { Judged, StandardInUse } from '#contract'
import { inPage } from '../../testing/in-page'
import { Judge } from './Judge'
import { NOTHING_JUDGED } from './judged'

const head = { id: 's', title: 'Field notebook', version: 1 }
const level = (points: number, words: string, to?: number) => ({ points, words, ...(to === undefined ? {} : { to }) })
const rubric = (more: object = {}): StandardInUse => ({
  ...head,
  kind: 'rubric',
  body: {
    criteria: [
      { id: 'a', title: 'Aim', ranges: false, penalty: false, levels: [level(0, 'none'), level(3, 'named'), level(7, 'argued')] },
      { id: 'b', title: 'Sketch', ranges: true, penalty: false, levels: [level(0, 'none', 2), level(4, 'clear', 6)] },
      { id: 'late', title: 'Handed in late', ranges: false, penalty: true, levels: [level(0, 'in time'), level(2, 'late')] },
    ],
    ...more,
  },
})
const scheme: StandardInUse = {
  ...head,
  kind: 'scheme',
  body: { criteria: [{ id: 'x', title: 'Sums', max: 10, words: 'right and shown', notes: 'half for method' }] },
}
const scale: StandardInUse = {
  ...head,
  kind: 'scale',
  body: {
    labels: [
      { label: 'not yet', percent: 30, threshold: 0 },
      { label: 'sound', percent: 60, threshold: 45 },
    ],
  },
}

type Given = Partial<Parameters<typeof Judge>[0]>

/** A reading that is made on screen, and what it came to. */
function judging(standard: StandardInUse | null, given: Given = {}) {
  let latest: Judged = given.judged ?? NOTHING_JUDGED
  function Reading() {
    const [judged, setJudged] = useState(latest)
    latest = judged
    return (
      <section>
        <Judge
          standard={standard}
          outOf={20}
          use={{ hidePoints: false, hideWords: false }}
          {...given}
          judged={judged}
          onChange={setJudged}
        />
        <button data-after-judging>Hand in</button>
      </section>
    )
  }
  return { ...inPage(<Reading />), latest: () => latest }
}
const levels = (criterion: string) => screen.getByRole('radiogroup', { name: criterion })
const chosen = () => screen.queryAllByRole('radio', { checked: true }).map((r) => r.getAttribute('aria-label'))

test('a rubric is judged with one key a criterion, and the last leads to handing in', async () => {
  const { user, latest } = judging(rubric({ criteria: (rubric() as { body: { criteria: object[] } }).body.criteria.slice(0, 1) }))
  screen.getByRole('radio', { name: /^1: none/ }).focus()
  expect(screen.getByText('not judged')).toBeTruthy()
  await user.keyboard('3')
  expect(latest().picks).toEqual({ a: 7 })
  expect(document.activeElement?.textContent).toBe('Hand in')
})

test('arrows walk the levels, down and up the criteria; Backspace takes a judgement back', async () => {
  const { user, latest } = judging(rubric())
  levels('Aim').querySelector('button')!.focus()
  await user.keyboard('{ArrowRight}{ArrowRight}')
  expect(latest().picks).toEqual({ a: 3 })
  await user.keyboard('{ArrowDown}')
  expect(levels('Sketch').contains(document.activeElement)).toBe(true)
  await user.keyboard('2{ArrowUp}{ArrowUp}')
  expect(latest().picks).toEqual({ a: 3, b: 4 })
  expect(levels('Aim').contains(document.activeElement)).toBe(true)
  await user.keyboard('{Backspace}')
  expect(latest().picks).toEqual({ b: 4 })
})

test('inside a range, + and − and a typed number give the exact point; outside it nothing is taken', async () => {
  const { user, latest } = judging(rubric(), { judged: { ...NOTHING_JUDGED, picks: { b: 4 } } })
  screen.getByRole('radio', { name: /^2: clear/ }).focus()
  await user.keyboard('+++-')
  expect(latest().picks.b).toBe(5)
  const points = screen.getByLabelText('Points of Sketch')
  await user.clear(points)
  await user.type(points, '9{Enter}')
  expect(points.getAttribute('aria-invalid')).toBe('true')
  expect(latest().picks.b).toBe(5)
  await user.clear(points)
  await user.type(points, '5.5{Enter}')
  expect(latest().picks.b).toBe(5.5)
})

test('a level that is clicked again is taken back; a penalty is shown as what it takes off', async () => {
  const { user, latest } = judging(rubric())
  const late = screen.getByRole('radio', { name: '2: late −2 points' })
  await user.click(late)
  expect(latest().picks).toEqual({ late: 2 })
  expect(screen.getByText('up to 2 off')).toBeTruthy()
  expect(screen.getByRole('radio', { name: '1: in time 0 points' })).toBeTruthy()
  await user.click(late)
  expect(latest().picks).toEqual({})
})

test('shown from the best level down, right is still towards what stands on the right', async () => {
  const { user, latest } = judging(rubric({ descending: true }))
  expect([...levels('Aim').querySelectorAll('button')].map((b) => b.dataset.level)).toEqual(['2', '1', '0'])
  levels('Aim').querySelector<HTMLElement>('[data-level="2"]')!.focus()
  await user.keyboard('1{ArrowUp}{ArrowLeft}')
  expect(latest().picks.a).toBe(3)
})

test.each([
  [false, ['0', '3', '7'], ['0', '1', '2']],
  [true, ['7', '3', '0'], ['2', '1', '0']],
])('best level first %s: ruler, words and bubble stand in the same order, and say what is saved', async (descending, figures, order) => {
  const { user, latest } = judging(rubric({ descending }))
  const aim = levels('Aim').closest('section')!
  const ruler = () => aim.querySelector('svg')!
  const placed = [...ruler().querySelectorAll('text')].map((t) => ({ figure: t.textContent!, x: Number(t.getAttribute('x')) }))
  expect(placed.sort((a, b) => a.x - b.x).map((p) => p.figure)).toEqual(figures)
  expect([...levels('Aim').querySelectorAll('button')].map((b) => b.dataset.level)).toEqual(order)
  for (const button of levels('Aim').querySelectorAll('button')) {
    await user.click(button)
    const lit = [0, 3, 7][Number(button.dataset.level)]!
    expect(latest().picks.a).toBe(lit)
    expect(Number(ruler().querySelector('ellipse')!.getAttribute('cx'))).toBe(placed.find((p) => p.figure === String(lit))!.x)
  }
})

test('while points are hidden none is in the page, by eye or by ear; words likewise', () => {
  judging(rubric(), { use: { hidePoints: true, hideWords: false }, judged: { ...NOTHING_JUDGED, picks: { a: 7 } } })
  expect(document.body.innerHTML).not.toMatch(/points|of 7|>7</)
  expect(chosen()).toEqual(['3: argued'])
})

test('words hidden: the levels are told by their number', () => {
  judging(rubric(), { use: { hidePoints: false, hideWords: true } })
  expect(document.body.textContent).not.toMatch(/argued|named/)
  expect(screen.getAllByText('level 1')).toHaveLength(3)
})

test('another reading beside it: its level is named as theirs, and the difference given', () => {
  const other = { judged: { ...NOTHING_JUDGED, picks: { a: 3, late: 2 } }, whose: 'agreed' }
  judging(rubric(), { judged: { ...NOTHING_JUDGED, picks: { a: 7, late: 0 } }, compared: other })
  expect(screen.getByRole('radio', { name: '2: named 3 points, agreed' })).toBeTruthy()
  expect(screen.getByText('+4.0')).toBeTruthy()
  // Less taken off is more given.
  expect(screen.getByText('+2.0')).toBeTruthy()
})

test('without a way to change it nothing is picked', async () => {
  const { user } = inPage(
    <Judge standard={rubric()} outOf={20} use={{ hidePoints: false, hideWords: false }} judged={{ ...NOTHING_JUDGED, picks: { a: 3 } }} />,
  )
  await user.click(screen.getByRole('radio', { name: /^3: argued/ }))
  levels('Aim').querySelector<HTMLElement>('[data-level="1"]')!.focus()
  await user.keyboard('3{Backspace}')
  expect(chosen()).toEqual(['2: named 3 points'])
})

test('a mark scheme takes free points up to each maximum; notes for markers stand beside the words', async () => {
  const { user, latest } = judging(scheme)
  const points = screen.getByLabelText('Points of Sums')
  await user.type(points, '10.5{Enter}')
  expect(latest().picks).toEqual({})
  await user.clear(points)
  await user.type(points, '7{Enter}')
  expect(latest().picks).toEqual({ x: 7 })
  expect([screen.getByText('right and shown'), screen.getByText('half for method')]).toHaveLength(2)
  await user.clear(points)
  await user.keyboard('{Enter}')
  expect(latest().picks).toEqual({})
})

test('an overall judgement says that no mark is given until it is; its key gives it and leads to handing in', async () => {
  const { user, latest } = judging(scale)
  expect(screen.getByText('No mark is given until a judgement is.')).toBeTruthy()
  screen.getByRole('radio', { name: /not yet/ }).focus()
  await user.keyboard('2')
  expect(latest().judgement).toBe('sound')
  expect(document.activeElement?.textContent).toBe('Hand in')
  expect(screen.getByText(/The judgement gives the mark/)).toBeTruthy()
  // 60% of 20.
  expect(screen.getByRole('radio', { name: /sound/ }).closest('label')?.textContent).toContain('12')
})

test('done or not: 1 and 0, as they are typed in the sheet', async () => {
  const { user, latest } = judging(null, { completion: true })
  expect(screen.getByText('Neither is chosen yet.')).toBeTruthy()
  screen.getByRole('radio', { name: /not done/ }).focus()
  await user.keyboard('1')
  expect(latest().mark).toBe(20)
  screen.getByRole('radio', { name: /not done/ }).focus()
  await user.keyboard('0')
  expect(latest().mark).toBe(0)
})

test('a direct mark lies between 0 and what it is marked out of', async () => {
  const { user, latest } = judging(null)
  const mark = screen.getByLabelText('Mark')
  for (const [typed, stands] of [
    ['21', null],
    ['-1', null],
    ['17,5', 17.5],
  ] as const) {
    await user.clear(mark)
    await user.type(mark, `${typed}{Enter}`)
    expect(latest().mark).toBe(stands)
  }
})

test('a digit goes on also where the criterion has ranges; what is inside one is typed, and Enter and arrows go on', async () => {
  const { user, latest } = judging(rubric())
  levels('Sketch').querySelector<HTMLElement>('[data-level="0"]')!.focus()
  await user.keyboard('2')
  expect(latest().picks.b).toBe(4)
  expect(levels('Handed in late').contains(document.activeElement)).toBe(true)
  const exact = screen.getByLabelText('Points of Sketch')
  await user.clear(exact)
  await user.type(exact, '5.5{ArrowDown}')
  expect(latest().picks.b).toBe(5.5)
  expect(levels('Handed in late').contains(document.activeElement)).toBe(true)
})

test('in a mark scheme Enter goes on, arrows change nothing, and a number over the maximum says why it is refused', async () => {
  const two: StandardInUse = {
    ...head,
    kind: 'scheme',
    body: {
      criteria: [
        { id: 'x', title: 'Sums', max: 10, words: '' },
        { id: 'y', title: 'Units', max: 5, words: '' },
      ],
    },
  }
  const { user, latest } = judging(two)
  const [sums, units] = ['Sums', 'Units'].map((t) => screen.getByLabelText(`Points of ${t}`))
  sums!.focus()
  await user.keyboard('8{Enter}')
  expect([latest().picks, document.activeElement]).toEqual([{ x: 8 }, units])
  await user.keyboard('{ArrowUp}{ArrowUp}')
  expect([latest().picks, document.activeElement]).toEqual([{ x: 8 }, sums])
  await user.keyboard('{ArrowDown}9{Enter}')
  expect([latest().picks, document.activeElement]).toEqual([{ x: 8 }, units])
  expect(screen.getByRole('alert').textContent).toMatch(/Not taken: give a number from 0 to 5/)
  await user.keyboard('{Backspace}4{Enter}')
  expect(latest().picks).toEqual({ x: 8, y: 4 })
  expect(document.activeElement!.textContent).toBe('Hand in')
})

test('on a scale of points the key 4 means 4, and two digits are typed one after the other', async () => {
  const points = (n: number): StandardInUse => ({
    ...head,
    kind: 'scale',
    body: { labels: Array.from({ length: n + 1 }, (_, i) => ({ label: String(i), percent: (100 * i) / n, threshold: i })) },
  })
  const five = judging(points(5))
  screen.getAllByRole('radio')[0]!.focus()
  await five.user.keyboard('4')
  expect(five.latest().judgement).toBe('4')
  cleanup()
  const twelve = judging(points(12))
  screen.getAllByRole('radio')[0]!.focus()
  await twelve.user.keyboard('1')
  expect(twelve.latest().judgement).toBe('1')
  await twelve.user.keyboard('2')
  expect(twelve.latest().judgement).toBe('12')
})
