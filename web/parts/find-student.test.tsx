import { screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { FindStudent } from './FindStudent'

const ROLL = [
  { id: 'ada', candidate: '4711' },
  { id: 'bo', candidate: '4712' },
]
const NAMES: Record<string, string> = { ada: 'Ada Quill', bo: 'Bo Rask' }
const finder = (students: typeof ROLL | null, onPick: (id: string) => void) => (
  <FindStudent students={students} label={(id) => NAMES[id] ?? ''} says="Leave out" onPick={onPick} />
)

test('the first found is taken with Enter, others with a click', async () => {
  const picked: string[] = []
  const { user } = inPage(finder(ROLL, (id) => picked.push(id)))
  await user.type(screen.getByLabelText('Leave out'), 'ada{Enter}')
  await user.type(screen.getByLabelText('Leave out'), '471')
  await user.click(screen.getByRole('button', { name: 'Bo Rask' }))
  expect(picked).toEqual(['ada', 'bo'])
})

test('Enter pressed before the roll has come counts once it is here', async () => {
  const picked: string[] = []
  const { user, show } = inPage(finder(null, (id) => picked.push(id)))
  await user.type(screen.getByLabelText('Leave out'), 'bo{Enter}')
  expect(screen.queryByText(/Nobody on the roll/)).toBeNull()
  show(finder(ROLL, (id) => picked.push(id)))
  expect([picked, screen.getByLabelText<HTMLInputElement>('Leave out').value]).toEqual([['bo'], ''])
})

test('typed on after Enter, nothing is taken of itself', async () => {
  const picked: string[] = []
  const { user, show } = inPage(finder(null, (id) => picked.push(id)))
  await user.type(screen.getByLabelText('Leave out'), 'b{Enter}x')
  show(finder(ROLL, (id) => picked.push(id)))
  expect(picked).toEqual([])
  expect(screen.getByText('Nobody on the roll is called that.')).toBeTruthy()
})
