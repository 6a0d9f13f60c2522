import { cleanup, screen, waitFor } from '@testing-library/react'
import { routes, type Note } from '#contract'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { NotesOn } from './NotesOn'

let mayDecide = true
jest.mock('../course/course', () => ({ useDecidedCourse: () => ({ id: 'c', mayDecide }) }))
beforeEach(() => (mayDecide = true))

const about = { kind: 'section', id: 'east', assessmentId: 'paper' } as const
const note = (id: string, more: Partial<Note> = {}): Note => ({
  id,
  about,
  by: 'Tamsin',
  words: 'High for its work?',
  at: '2026-11-20T10:00:00.000Z',
  answer: null,
  ...more,
})
const wrote: unknown[] = []
function show(notes: Note[], told: () => unknown = () => note('n')) {
  wrote.length = 0
  const answer = (body: unknown) => {
    wrote.push(body)
    return told()
  }
  return {
    ...serverAnswers([
      [routes.notes, () => notes],
      [routes.leaveNote, answer],
      [routes.answerNote, answer],
    ]),
    ...inPage(<NotesOn about={about} />),
  }
}

test('only what is noted on just this is shown, with its answer', async () => {
  show([
    note('n', { answer: { words: 'The paper was easier there.', by: 'Ines', at: '2026-11-21T10:00:00.000Z' } }),
    note('m', { words: 'On another paper', about: { ...about, assessmentId: 'essay' } }),
  ])
  await waitFor(() => expect(screen.getByRole('heading', { name: '1 note' })).toBeTruthy())
  expect(screen.getByText('The paper was easier there.')).toBeTruthy()
  expect(screen.queryByText('On another paper')).toBeNull()
  expect(screen.queryByRole('button', { name: 'Answer' })).toBeNull()
})

test('a note is left by whoever oversees; what is refused stays typed', async () => {
  mayDecide = false
  const { user } = show([], () => new Refuses(404, 'What the note is about is not there (any more).'))
  await user.click(await screen.findByRole('button', { name: 'Leave a note' }))
  await user.type(screen.getByLabelText('Your note'), 'Look at Dioptra.')
  await user.click(screen.getByRole('button', { name: 'Leave it' }))
  await waitFor(() => expect(wrote[0]).toEqual({ about, words: 'Look at Dioptra.' }))
  expect(screen.getByLabelText<HTMLTextAreaElement>('Your note').value).toBe('Look at Dioptra.')
})

test('the lead answers; whoever only looks on sees that it waits', async () => {
  const { user } = show([note('n')])
  await user.click(await screen.findByRole('button', { name: 'Answer' }))
  await user.type(screen.getByLabelText('Your answer'), 'It was.')
  await user.click(screen.getByRole('button', { name: 'Answer' }))
  await waitFor(() => expect(wrote[0]).toEqual({ words: 'It was.' }))
  cleanup()
  mayDecide = false
  show([note('n')])
  await waitFor(() => expect(screen.getByText('not answered yet')).toBeTruthy())
})
