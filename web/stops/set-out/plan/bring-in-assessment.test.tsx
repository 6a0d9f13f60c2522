import { screen, waitFor } from '@testing-library/react'
import { routes } from '#contract'
import { component } from '../../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { BringInAssessment } from './BringInAssessment'

const TRIED = {
  title: 'Paper 2',
  component: 'Exam',
  marking: 'rubric',
  outOf: 62.5,
  standard: { title: 'A map for a reader', here: false },
  marks: 1,
  readings: 40,
}
const zip = (name = 'paper.zip') => new File(['PK'], name, { type: 'application/zip' })

function dialog(answer: () => unknown = () => TRIED) {
  serverAnswers([[routes.tryAssessmentPackage, answer]])
  const added: unknown[] = []
  const page = inPage(
    <BringInAssessment
      courseId="c"
      components={[component('work', 40), component('exam', 60)]}
      hasMarks
      onBringIn={(body) => Promise.resolve(void added.push(body))}
      onClose={() => undefined}
    />,
  )
  return { ...page, added, choose: (file = zip()) => page.user.upload(screen.getByLabelText(/^A data package/), file) }
}

test('it says what would be added and what stays in the package, and goes into the component of that name', async () => {
  const { user, added, choose } = dialog()
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add it' }).disabled).toBe(true)
  await choose()
  const told = (await screen.findByText('Paper 2')).closest('[role=status]')!
  expect(told.textContent).toMatch(/Paper 2 out of 62\.5, rubric/)
  expect(told.textContent).toMatch(/“A map for a reader”, which the library does not have yet: it comes along/)
  expect(told.textContent).toMatch(/1 mark and 40 readings are in the package and stay in it/)
  expect(screen.getByText(/does not count until you tick/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Add it' }))
  expect(added).toEqual([{ file: expect.any(String), componentId: 'exam' }])
})

test('what is no package is told, and nothing can be added', async () => {
  const { choose, added } = dialog(() => new Refuses(422, 'This is no data package.'))
  await choose()
  expect((await screen.findByRole('alert')).textContent).toBe('This is no data package.')
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add it' }).disabled).toBe(true))
  expect(added).toEqual([])
})
