import { screen, waitFor, within } from '@testing-library/react'
import type { Change } from '#core/trial'
import { routes, type Idea } from '#contract'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import { smallTable } from '../../testing/small-course'
import { smallTrial } from '../../testing/small-trial'
import { Ideas } from './Ideas'

const TABLE = smallTable([
  ['ada', 'paper', 38],
  ['ada', 'essay', 14],
  ['bo', 'paper', 15],
  ['bo', 'essay', 8],
])
const up = (by: number): Change[] => [
  {
    kind: 'adjust',
    adjustment: {
      id: `up-${by}`,
      assessmentId: null,
      outOf: 100,
      sectionIds: null,
      method: { kind: 'add', by },
      on: true,
      neverLower: true,
      above: 'allow',
      step: null,
    },
  },
]
const trial = smallTrial(TABLE)
let kept: Idea[] = []
jest.mock(
  '../../course/course',
  () => jest.requireActual<typeof import('../../testing/small-trial')>('../../testing/small-trial').inItsPlace,
)
// The strip is looked at in a real browser.
jest.mock('../GradeStrip', () => ({ GradeStrip: () => null }))

const WORDS = { title: 'Ideas', one: 'idea', how: '' }
const idea = (id: string, by: number): Idea => ({
  id,
  stop: 'rescale',
  name: `Everyone +${by}`,
  changes: up(by),
  by: 'Ines Valdry',
  at: '2026-12-01T10:00:00.000Z',
})
let full = false
const show = () => {
  const server = serverAnswers([
    [routes.ideas, () => kept],
    [
      routes.keepIdea,
      (body) => {
        if (full) return new Refuses(409, '4 ideas are kept already: drop one, and there is room for this.')
        const { name, changes } = body as Pick<Idea, 'name' | 'changes'>
        const made = { ...idea('new', 1), name, changes }
        kept = [...kept, made]
        return made
      },
    ],
    [routes.dropIdea, () => void (kept = kept.filter((i) => i.id !== 'b'))],
  ])
  return { ...server, ...inPage(<trial.Drawn>{() => <Ideas nav={null} stop="rescale" words={WORDS} />}</trial.Drawn>) }
}
beforeEach(() => {
  trial.begin()
  full = false
  kept = [idea('a', 1), idea('b', 12)]
})

test('ideas stand beside what is adopted, each with who moves; one is picked to be tried and the others stay', async () => {
  const { user } = show()
  const row = await screen.findByRole('row', { name: /^Everyone \+12/ })
  // 38.75 passes 40.
  expect(within(row).getByText('↑1 ↓0')).toBeTruthy()
  expect(screen.getByRole('row', { name: /^as adopted .* in force/ })).toBeTruthy()
  await user.click(within(row).getByRole('button'))
  expect(screen.getByText(/1 adjustment, kept by Ines Valdry/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Try it/ }))
  expect(trial.changes).toEqual(up(12))
  expect(screen.getByRole('row', { name: /^what is tried now/ })).toBeTruthy()
  expect(screen.getByRole('row', { name: /^Everyone \+1 / })).toBeTruthy()
})

test('what is tried is kept under a name; where there is no room it is said, and nothing typed is lost', async () => {
  trial.changes = up(3)
  full = true
  const { user } = show()
  await user.click(await screen.findByRole('button', { name: /^Keep what is tried/ }))
  await user.type(screen.getByLabelText('What it is called'), 'Three more{Enter}')
  expect((await screen.findByRole('alert')).textContent).toMatch(/4 ideas are kept already/)
  expect(screen.getByLabelText<HTMLInputElement>('What it is called').value).toBe('Three more')
  full = false
  await user.click(screen.getByRole('button', { name: 'Keep it' }))
  expect(await screen.findByRole('row', { name: /^Three more/ })).toBeTruthy()
  expect(trial.changes).toEqual(up(3))
})

test('one is dropped, and what is tried stays', async () => {
  trial.changes = up(3)
  const { user } = show()
  await user.click(await screen.findByRole('button', { name: 'Everyone +12' }))
  await user.click(screen.getByRole('button', { name: 'Drop it' }))
  await waitFor(() => expect(screen.queryByRole('row', { name: /^Everyone \+12/ })).toBeNull())
  expect(trial.changes).toEqual(up(3))
})
