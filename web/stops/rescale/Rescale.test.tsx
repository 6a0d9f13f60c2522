import { screen, within } from '@testing-library/react'
import { useReducer } from 'react'
import { addChanges, type Change } from '#core/trial'
import { inPage } from '../../testing/in-page'
import { smallCourse, smallFigures, smallTable } from '../../testing/small-course'
import Rescale from './Rescale'

const TABLE = smallTable([
  ['ada', 'paper', 20],
  ['bo', 'paper', 12],
  ['cy', 'paper', 30],
])

let changes: Change[] = []
let draw: () => void = () => undefined
const setTrial = (next: Change[]) => {
  changes = next
  draw()
}
jest.mock('../../course/course', () => ({
  useFigures: (name: 'rescale', of: string | null) => smallFigures(TABLE, changes)(name, of),
  useDecidedCourse: () => ({ ...smallCourse(TABLE), mayDecide: true, propose: (added: Change[]) => setTrial(addChanges(changes, added)) }),
  useCourse: () => ({
    ...smallCourse(TABLE, changes),
    mayDecide: true,
    preview: () => undefined,
    propose: (added: Change[]) => setTrial(addChanges(changes, added)),
    setTrial,
  }),
}))
// The curve is looked at and pulled in a real browser.
jest.mock('./CurveChart', () => ({ CurveChart: () => null }))

function Shown() {
  ;[, draw] = useReducer((n: number) => n + 1, 0)
  return <Rescale />
}
beforeEach(() => (changes = []))
const method = () => changes.map((c) => (c.kind === 'adjust' ? c.adjustment.method : c.kind))
const start = () => inPage(<Shown />, { address: '/courses/c/rescale?of=paper' })

test('a way opens as a trial; its number typed is what is tried, and the sections say what it does', async () => {
  const { user } = start()
  await user.click(screen.getByRole('button', { name: /^add the same/ }))
  expect(method()).toEqual([{ kind: 'add', by: 0 }])
  const field = screen.getByLabelText('marks to add')
  await user.clear(field)
  await user.type(field, '5{Enter}')
  expect(method()).toEqual([{ kind: 'add', by: 5 }])
  const east = screen.getByRole('row', { name: /^East/ })
  expect(within(east).getByText('21.0')).toBeTruthy()
  expect(within(east).getByText('was 1')).toBeTruthy()
  expect(screen.getByText('1 · add the same, +5.0')).toBeTruthy()
})

test('points are typed between their neighbours, by key as well', async () => {
  const { user } = start()
  await user.keyboard('5')
  const becomes = screen.getByLabelText('Point 3 becomes')
  await user.clear(becomes)
  await user.type(becomes, '24{Enter}')
  expect(method()).toEqual([
    {
      kind: 'curve',
      points: [
        [0, 0],
        [10, 10],
        [20, 24],
        [30, 30],
        [40, 40],
      ],
    },
  ])
})

test('another way takes the place of the one that is tried, and dropped it is gone', async () => {
  const { user } = start()
  await user.keyboard('1')
  await user.keyboard('3')
  expect(method()).toEqual([{ kind: 'topTo', to: 40, highest: '30' }])
  await user.click(screen.getByRole('button', { name: /^Drop it/ }))
  expect(changes).toEqual([])
  expect(screen.getByText(/Nothing is rescaled here/)).toBeTruthy()
})
