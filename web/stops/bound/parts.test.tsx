import { screen, waitFor, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { routes, type ToJudge } from '#contract'
import { inPage, reload, serverAnswers } from '../../testing/in-page'
import { smallTable } from '../../testing/small-course'
import { smallTrial } from '../../testing/small-trial'
import { ConditionsPart } from './conditions/ConditionsPart'
import Judging from './judging/Judging'
import { SurePart } from './sure/SurePart'

jest.mock(
  '../../course/course',
  () => jest.requireActual<typeof import('../../testing/small-trial')>('../../testing/small-trial').inItsPlace,
)

const BOUNDARIES = [
  { grade: 'Merit', from: 60 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
// Ada has little in the paper and all in the essay; Bo the other way round.
const TABLE = smallTable(
  [
    ['ada', 'paper', 12],
    ['ada', 'essay', 20],
    ['bo', 'paper', 40],
    ['bo', 'essay', 8],
  ],
  [],
  { boundaries: BOUNDARIES },
)

describe('conditions', () => {
  const start = (mayDecide = true) => {
    const trial = smallTrial(TABLE)
    trial.mayDecide = mayDecide
    return { trial, ...inPage(<trial.Drawn>{() => <ConditionsPart nav={null} />}</trial.Drawn>) }
  }

  test('one is tried, says who it holds back and from what, is changed, and taken away', async () => {
    const { trial, user } = start()
    await user.selectOptions(screen.getByLabelText('The new condition is on'), 'exam')
    await user.selectOptions(screen.getByLabelText('The new condition is asked for by'), 'Merit')
    await user.click(screen.getByRole('button', { name: 'Try this condition' }))
    expect(screen.getByText(/^It holds 1 student back/)).toBeTruthy()
    const list = screen.getByRole('complementary', { name: 'Close-up' })
    expect(within(list).getByText(/30\.0/)).toBeTruthy()
    expect(trial.changes).toEqual([
      expect.objectContaining({ kind: 'condition', condition: { componentId: 'exam', least: 40, atMost: 'Pass' } }),
    ])
    const least = screen.getByLabelText('Exam at least')
    await user.clear(least)
    await user.type(least, '25{Enter}')
    expect(screen.getByText(/^It holds nobody back/)).toBeTruthy()
    expect(trial.changes).toHaveLength(1)
    await user.click(screen.getByRole('button', { name: 'Take the condition on Exam away' }))
    expect(screen.getByText(/^No grade asks for anything but its percent/)).toBeTruthy()
  })

  test('a second one on the same part for the same grade takes the place of the first', async () => {
    const { trial, user } = start()
    for (const least of ['40', '35']) {
      await user.selectOptions(screen.getByLabelText('The new condition is on'), 'exam')
      const field = screen.getByLabelText('The new condition asks for at least')
      await user.clear(field)
      await user.type(field, `${least}{Enter}`)
      await user.click(screen.getByRole('button', { name: 'Try this condition' }))
    }
    expect(trial.changes.map((c) => c.kind === 'condition' && c.condition?.least)).toEqual([35])
  })

  test('who may not decide sees them and changes nothing', () => {
    start(false)
    expect(screen.queryByRole('button', { name: 'Try this condition' })).toBeNull()
  })
})

describe('how sure', () => {
  const show = () => {
    const trial = smallTrial(TABLE)
    return inPage(<trial.Drawn>{() => <SurePart nav={null} />}</trial.Drawn>)
  }

  test('with nothing read twice nobody can tell; what a person knows is used, and is there after a reload', async () => {
    const { user } = show()
    expect(screen.getByText(/^Nobody can tell yet/)).toBeTruthy()
    await user.type(screen.getByLabelText('A reading of paper is off by'), '3{Enter}')
    // 50% over 40 marks: 1.25 percents a mark.
    expect(screen.getByText('±3.8')).toBeTruthy()
    expect(screen.getByRole('row', { name: /^Merit 60 / })).toBeTruthy()
    reload()
    show()
    expect(screen.getByText('±3.8')).toBeTruthy()
    const typed = screen.getByLabelText<HTMLInputElement>('A reading of paper is off by')
    expect(typed.value).toBe('3')
    await user.clear(typed)
    await user.type(typed, '{Enter}')
    expect(screen.getByText(/^Nobody can tell yet/)).toBeTruthy()
  })
})

describe('judging', () => {
  const list = (more: Partial<ToJudge> = {}): ToJudge => ({
    id: 'l',
    grade: 'Merit',
    students: [1, 2].map((number) => ({ number, able: null })),
    ...more,
  })
  const show = (lists: ToJudge[]) => {
    const server = serverAnswers([
      [routes.toJudge, () => lists],
      [
        routes.workToJudge,
        (_: unknown, address) => (address.includes('/students/1/') ? [{ assessment: 'Map project', text: 'The ridge runs north.' }] : []),
      ],
      [routes.judgeLine, () => undefined],
    ])
    const page = inPage(
      <Routes>
        <Route path="/courses/:courseId/judging" element={<Judging />} />
      </Routes>,
      { address: '/courses/c/judging' },
    )
    return { server, ...page }
  }

  test('by keyboard: said of one, the next one comes; what is said can be taken back', async () => {
    const { user, server } = show([list()])
    expect(await screen.findByText('The ridge runs north.')).toBeTruthy()
    expect(screen.getByText('2 of 2 left')).toBeTruthy()
    await user.keyboard('y')
    expect(await screen.findByRole('heading', { name: 'Student 2: could they do what Merit asks for?' })).toBeTruthy()
    expect(await screen.findByText(/^There is no work of theirs here that you may read now/)).toBeTruthy()
    await user.keyboard('n')
    expect(await screen.findByText('All are judged')).toBeTruthy()
    expect(server.sent.map((s) => s.body)).toEqual([{ able: true }, { able: false }])
    await user.click(screen.getByRole('button', { name: 'Take it back' }))
    expect(await screen.findByText('1 of 2 left')).toBeTruthy()
    expect(server.sent.at(-1)!.body).toEqual({ able: null })
  })

  test('what is refused is said, and the student stays', async () => {
    const { user, server } = show([list({ students: [{ number: 1, able: true }] }), list({ id: 'other', grade: 'Pass' })])
    // Each list is reached at any time.
    await user.click(await screen.findByRole('button', { name: /^Pass, 2 of 2 left/ }))
    expect(await screen.findByRole('heading', { name: 'Student 1: could they do what Pass asks for?' })).toBeTruthy()
    await user.click(screen.getByRole('button', { name: /^Merit, all judged/ }))
    server.away = true
    await user.keyboard('n')
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(screen.getByRole('button', { name: /They could Y/ }).getAttribute('aria-pressed')).toBe('true')
  })

  test('with nothing to judge it says so', async () => {
    show([])
    await waitFor(() => expect(screen.getByText(/^Nothing is asked of you/)).toBeTruthy())
  })
})
