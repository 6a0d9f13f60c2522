import { screen, waitFor } from '@testing-library/react'
import { useReducer } from 'react'
import type { Boundary } from '#core/grades'
import { addChanges, type Change } from '#core/trial'
import { routes, type Plan } from '#contract'
import { inPage, serverAnswers } from '../../../testing/in-page'
import { Grades } from './Grades'

let changes: Change[] = []
let draw: () => void = () => undefined
jest.mock('../../../course/trial', () => ({
  useTrial: () => ({
    courseId: 'c',
    mayDecide: true,
    changes,
    propose: (added: Change[]) => {
      changes = addChanges(changes, added)
      draw()
    },
    setTrial: (next: Change[]) => {
      changes = next
      draw()
    },
  }),
}))

const SET: Boundary[] = [
  { grade: 'Merit', from: 60 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
const plan = (hasMarks: boolean, boundaries = SET) =>
  ({
    head: { id: 'c' },
    hasMarks,
    boundaries,
    policy: { above100: 'cap' },
    components: [],
    assessments: [],
    leftOut: [],
  }) as unknown as Plan

function Shown({ hasMarks, boundaries }: { hasMarks: boolean; boundaries?: Boundary[] }) {
  ;[, draw] = useReducer((n: number) => n + 1, 0)
  return <Grades decided={plan(hasMarks, boundaries)} />
}
beforeEach(() => (changes = []))
const tried = () => changes.flatMap((c) => (c.kind === 'bound' ? [c.boundaries.map((b) => `${b.grade} ${b.from}`).join(', ')] : []))

test('with marks about a grade is added, renamed and taken away in the trial; back as it was, there is none', async () => {
  serverAnswers([])
  const { user } = inPage(<Shown hasMarks />)
  await user.click(screen.getByRole('button', { name: 'Add a grade below Merit' }))
  expect(tried()).toEqual(['Merit 60, New grade 50, Pass 40, Refer 0'])
  expect(screen.getByText(/These are in the open trial/)).toBeTruthy()
  const name = screen.getByLabelText('Grade 2')
  await user.clear(name)
  await user.type(name, 'Credit{Enter}')
  expect(tried()).toEqual(['Merit 60, Credit 50, Pass 40, Refer 0'])
  await user.click(screen.getByRole('button', { name: 'Take Credit away' }))
  expect(changes).toEqual([])
})

test('before there are marks it is saved as one goes, and undone', async () => {
  const server = serverAnswers([[routes.setGrades, (body) => body]])
  const { user } = inPage(<Shown hasMarks={false} />, { known: [[['plan', 'c'], plan(false)]] })
  await user.selectOptions(screen.getByLabelText('Start from'), 'pass and fail')
  await waitFor(() =>
    expect(server.sent[0]).toMatchObject({
      address: '/api/courses/c/grades',
      body: {
        boundaries: [
          { grade: 'Pass', from: 50 },
          { grade: 'Fail', from: 0 },
        ],
      },
    }),
  )
  await user.click(await screen.findByRole('button', { name: 'Undo: grades: pass and fail' }))
  await waitFor(() => expect(server.sent[1]!.body).toEqual({ boundaries: SET }))
  expect(changes).toEqual([])
})

test('what is no set yet stays as typed, with the reason, and is neither tried nor saved', async () => {
  const server = serverAnswers([])
  const { user } = inPage(<Shown hasMarks={false} />)
  const begins = screen.getByLabelText('Pass begins at')
  await user.clear(begins)
  await user.type(begins, '75{Enter}')
  expect(screen.getByText(/Pass begins at 75, above Merit at 60/)).toBeTruthy()
  expect(screen.getByRole('alert').textContent).toMatch(/no set yet, and is not saved/)
  expect(server.sent).toEqual([])
  const name = screen.getByLabelText('Grade 3')
  await user.clear(name)
  await user.type(name, 'merit{Enter}')
  expect(screen.getByText(/the grade merit already stands in row 1/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Put it back' }))
  expect([(screen.getByLabelText('Pass begins at') as HTMLInputElement).value, screen.queryByRole('alert')]).toEqual(['40', null])
})

test('when a set is taken smaller somebody is still caught at the bottom', async () => {
  serverAnswers([])
  const { user } = inPage(<Shown hasMarks />)
  await user.click(screen.getByRole('button', { name: 'Take Refer away' }))
  expect(tried()).toEqual(['Merit 60, Pass 0'])
  expect(screen.queryByRole('button', { name: /^Take .* away$/ })).toBeNull()
})

test('the department’s own sets stand first among those to start from; the one that stands there is kept under a name, and dropped', async () => {
  const five = {
    id: 'own',
    name: 'Hydrography',
    grades: [
      { grade: 'Clear', from: 50 },
      { grade: 'Murky', from: 0 },
    ],
    by: 'Mo',
    own: true,
  }
  let sets: object[] = []
  const server = serverAnswers([
    [routes.gradeSets, () => sets],
    [routes.keepGradeSet, () => (sets = [five])],
    [routes.dropGradeSet, () => (sets = [])],
  ])
  const { user } = inPage(<Shown hasMarks />)
  await user.click(screen.getByRole('button', { name: 'Keep these for the department…' }))
  await user.type(screen.getByLabelText('What the set is called'), 'Hydrography{Enter}')
  const drop = await screen.findByRole('button', { name: 'Keep Hydrography no longer' })
  expect(server.sent[0]!.body).toEqual({ name: 'Hydrography' })
  await user.selectOptions(screen.getByLabelText('Start from'), 'Hydrography')
  expect(tried()).toEqual(['Clear 50, Murky 0'])
  await user.click(drop)
  await waitFor(() => expect(screen.queryByRole('option', { name: 'Hydrography' })).toBeNull())
})
