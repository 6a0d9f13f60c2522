import { screen, within } from '@testing-library/react'
import { routes, type ByStanding, type CourseOutcome, type LevelsWorth } from '#contract'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { entry } from '../../../testing/library-entry'
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
const TYPED: ByStanding = {
  assessmentId: 'essay',
  outcomeId: 'o',
  outcome: 'Closes',
  worth: { kind: 'typed', percents: [0, 40, 100] },
  percents: [0, 40, 100],
  scale: null,
}
const SCALE = {
  ...entry('words', 'Five words'),
  labels: [20, 40, 60, 80, 100].map((percent, i) => ({ label: 'abcde'[i]!, percent, threshold: 0 })),
}
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
      ({ worth }: { worth: LevelsWorth }) => {
        if (refuse) return new Refuses(409, refuse)
        const read = worth.kind === 'typed' ? { percents: worth.percents, scale: null } : OFF
        all = [{ assessmentId: 'paper', outcomeId: 'o', outcome: 'Closes', worth, ...read }]
        return { marks: 12 }
      },
    ],
    [routes.library, () => ({ rubrics: [], schemes: [], scales: [SCALE], outcomes: [] })],
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
  expect(sent[0]!.body).toEqual({ outcomeId: 'o', worth: { kind: 'typed', percents: [0, 65, 100] } })
  expect(await screen.findByText('begins 0%, with help 65%, alone 100%')).toBeTruthy()
  // It is taken: nothing else is left to be marked so.
  // What is marked by it already is not offered again.
  await user.click(screen.getByRole('button', { name: 'Mark an assessment by it…' }))
  expect(
    within(screen.getByRole('combobox', { name: 'Assessment to mark by it' }))
      .getAllByRole('option')
      .map((o) => o.textContent),
  ).toEqual(['essay'])
})

const OFF = { percents: [20, 80, 100], scale: { title: 'Five words', labels: ['a', 'd', 'e'] } }
test('levels are read off a scale of the library, in proportion unless another label is chosen', async () => {
  const { user, sent } = seen()
  await user.click(await screen.findByRole('button', { name: 'Mark an assessment by it…' }))
  await user.selectOptions(screen.getByRole('combobox', { name: 'What levels are worth' }), await screen.findByText('read off Five words'))
  const label = (level: string) => screen.getByRole<HTMLSelectElement>('combobox', { name: `Label for ${level}` })
  expect(['begins', 'with help', 'alone'].map((l) => label(l).selectedOptions[0]!.textContent)).toEqual(['a, 20%', 'c, 60%', 'e, 100%'])
  await user.selectOptions(label('with help'), 'd, 80%')
  await user.click(screen.getByRole('button', { name: 'Mark it so' }))
  expect(await screen.findByText('Five words: begins a 20%, with help d 80%, alone e 100%')).toBeTruthy()
  expect(sent[0]!.body).toEqual({ outcomeId: 'o', worth: { kind: 'scale', scaleId: 'words', labels: [0, 3, 4] } })
})

test('by hand again, and that is taken back by undoing', async () => {
  all = [TYPED]
  const { user, sent } = seen()
  await user.click(await screen.findByRole('button', { name: /by hand again$/ }))
  expect(await screen.findByText(/is marked by hand again; its marks stay/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Undo/ }))
  expect(sent.map((s) => s.method)).toEqual(['DELETE', 'PUT'])
  expect(sent[1]!.body).toEqual({ outcomeId: 'o', worth: TYPED.worth })
})

test('what is refused is said, and what was typed stays', async () => {
  const { user } = seen('Essay is marked by readings: take another assessment, which is not read.')
  await user.click(await screen.findByRole('button', { name: 'Mark an assessment by it…' }))
  await user.click(screen.getByRole('button', { name: 'Mark it so' }))
  expect(await screen.findByText(/is marked by readings/)).toBeTruthy()
  expect(screen.getByRole('textbox', { name: 'Percent for alone' })).toBeTruthy()
})

test('who may not decide reads how it is', async () => {
  all = [TYPED]
  trial.mayDecide = false
  seen()
  expect(await screen.findByText('begins 0%, with help 40%, alone 100%')).toBeTruthy()
  expect(screen.queryByRole('button', { name: /by hand|Mark an/ })).toBeNull()
})
