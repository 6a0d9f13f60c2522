import { screen, within } from '@testing-library/react'
import { routes, type Question } from '#contract'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import { QuestionsPart } from './QuestionsPart'

const question = (id: string, more: Partial<Question> = {}): Question => ({
  id,
  about: 'Relief',
  reason: `${id}: the crag is drawn.`,
  at: '2026-11-20T10:00:00.000Z',
  markThen: 11,
  answer: null,
  studentId: id,
  assessmentId: 'map',
  scriptId: `map:${id}`,
  student: `Ada ${id}`,
  candidate: `10${id}`,
  section: 'East',
  assessment: 'Map',
  outOf: 20,
  answeredBy: null,
  ...more,
})
const answered = question('3', { answer: { words: 'It counts.', at: '2026-11-21T10:00:00.000Z' }, answeredBy: 'Ines' })

function seen(list: Question[], { answers = true, send = () => undefined as unknown }: { answers?: boolean; send?: () => unknown } = {}) {
  const { sent } = serverAnswers([
    [routes.questions, () => list],
    [routes.answerQuestion, send],
  ])
  return { sent, ...inPage(<QuestionsPart courseId="c" answers={answers} nav={null} more={(q) => <p>about {q.scriptId}</p>} />) }
}

test('those that wait are counted, and the first of them is open with what can be done about it', async () => {
  seen([question('1'), question('2'), answered])
  expect(await screen.findByRole('heading', { name: '2 questions wait for an answer' })).toBeTruthy()
  const closeUp = screen.getByRole('complementary', { name: 'Close-up' })
  expect(closeUp.textContent).toMatch(/^Ada 1 East · Map, ReliefAsked 20 Nov, 10:00, when the mark was 11 of 20/)
  expect(within(closeUp).getByText('about map:1')).toBeTruthy()
})

test('an answer is sent in words, kept where it is refused, and the keys walk from one question to the next', async () => {
  let refuse = true
  const { user, sent } = seen([question('1'), question('2')], {
    send: () => (refuse ? new Refuses(409, 'Lea has answered it already: look at it again.') : undefined),
  })
  await user.click(await screen.findByRole('button', { name: 'Answer' }))
  await user.type(screen.getByRole('textbox', { name: 'Your answer' }), 'Looked at.')
  await user.click(screen.getByRole('button', { name: 'Answer' }))
  expect(await screen.findByText(/Lea has answered it already/)).toBeTruthy()
  expect(screen.getByRole<HTMLTextAreaElement>('textbox', { name: 'Your answer' }).value).toBe('Looked at.')
  refuse = false
  await user.click(screen.getByRole('button', { name: 'Answer' }))
  expect(sent.at(-1)!.body).toEqual({ words: 'Looked at.' })
  await user.click(document.body)
  await user.keyboard('{ArrowDown}')
  expect(screen.getByRole('complementary').textContent).toMatch(/^Ada 2/)
})

test('what was answered says by whom; who may not answer is offered nothing', async () => {
  const { user } = seen([question('1'), answered], { answers: false })
  expect(await screen.findByText('Not answered yet.')).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Answer' })).toBeNull()
  await user.click(screen.getByRole('button', { name: 'Ada 3' }))
  expect(screen.getByText(/^Answered by Ines, 21 Nov/)).toBeTruthy()
})

test('by numbers nobody is named', async () => {
  localStorage.setItem('level-table-names', 'numbers')
  seen([question('1')])
  expect(await screen.findByRole('button', { name: '101' })).toBeTruthy()
  expect(document.body.textContent).not.toContain('Ada')
  localStorage.clear()
})

test('without any it says what will come here', async () => {
  seen([])
  expect(await screen.findByText(/What students ask about marks/)).toBeTruthy()
})
