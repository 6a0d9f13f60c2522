import { screen } from '@testing-library/react'
import { routes, type ByStanding, type CourseOutcome } from '#contract'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { smallTable } from '../../../testing/small-course'
import { smallTrial } from '../../../testing/small-trial'
import { MarksByIt } from './MarksByIt'

jest.mock(
  '../../../course/course',
  () => jest.requireActual<typeof import('../../../testing/small-trial')>('../../../testing/small-trial').inItsPlace,
)

const OUTCOME = {
  id: 'o',
  title: 'Closes',
  levels: ['begins', 'with help', 'alone'].map((label) => ({ label, words: '' })),
} as CourseOutcome
const trial = smallTrial(smallTable([['ada', 'essay', null]], []))
let all: ByStanding[]
beforeEach(() => {
  all = []
  trial.begin()
})

function seen(refuse: string | null = null) {
  const { sent } = serverAnswers([
    [routes.byStanding, () => all],
    [
      routes.markByStanding,
      ({ percents }: { percents: number[] }) => {
        if (refuse) return new Refuses(409, refuse)
        all = [{ assessmentId: 'paper', outcomeId: 'o', outcome: 'Closes', percents }]
        return { marks: 12 }
      },
    ],
    [routes.markByHand, () => void (all = [])],
  ])
  return { sent, ...inPage(<MarksByIt outcome={OUTCOME} />) }
}

test('each level is worth a percent, in proportion to begin with; the marks are written and follow', async () => {
  const { user, sent } = seen()
  expect(await screen.findByText('No assessment is marked by where students stand on it.')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Mark an assessment by it…' }))
  const worth = (label: string) => screen.getByRole<HTMLInputElement>('textbox', { name: `Percent for ${label}` })
  expect(['begins', 'with help', 'alone'].map((l) => worth(l).value)).toEqual(['0', '50', '100'])
  await user.clear(worth('with help'))
  await user.type(worth('with help'), '65{Enter}')
  await user.click(screen.getByRole('button', { name: 'Mark it so' }))
  expect(await screen.findByText(/^12 marks of .* were written\. They follow from now on\.$/)).toBeTruthy()
  expect(sent[0]!.body).toEqual({ outcomeId: 'o', percents: [0, 65, 100] })
  expect(await screen.findByText('begins 0%, with help 65%, alone 100%')).toBeTruthy()
  // It is taken: nothing else is left to be marked so.
  // What is marked by it already is not offered again.
  await user.click(screen.getByRole('button', { name: 'Mark an assessment by it…' }))
  expect(screen.getAllByRole('option').map((o) => o.textContent)).toEqual(['essay'])
})

test('by hand again, and that is taken back by undoing', async () => {
  all = [{ assessmentId: 'essay', outcomeId: 'o', outcome: 'Closes', percents: [0, 40, 100] }]
  const { user, sent } = seen()
  await user.click(await screen.findByRole('button', { name: /by hand again$/ }))
  expect(await screen.findByText(/is marked by hand again; its marks stay/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Undo/ }))
  expect(sent.map((s) => s.method)).toEqual(['DELETE', 'PUT'])
  expect(sent[1]!.body).toEqual({ outcomeId: 'o', percents: [0, 40, 100] })
})

test('what is refused is said, and what was typed stays', async () => {
  const { user } = seen('Essay is marked by readings: take another assessment, which is not read.')
  await user.click(await screen.findByRole('button', { name: 'Mark an assessment by it…' }))
  await user.click(screen.getByRole('button', { name: 'Mark it so' }))
  expect(await screen.findByText(/is marked by readings/)).toBeTruthy()
  expect(screen.getByRole('textbox', { name: 'Percent for alone' })).toBeTruthy()
})

test('who may not decide reads how it is', async () => {
  all = [{ assessmentId: 'essay', outcomeId: 'o', outcome: 'Closes', percents: [0, 40, 100] }]
  trial.mayDecide = false
  seen()
  expect(await screen.findByText('begins 0%, with help 40%, alone 100%')).toBeTruthy()
  expect(screen.queryByRole('button', { name: /by hand|Mark an/ })).toBeNull()
})
