import { screen, within } from '@testing-library/react'
import type { NewPlan, Plan } from '#contract'
import { courseHead } from '../../../testing/data'
import { inPage } from '../../../testing/in-page'
import { PastePlan } from './PastePlan'

const PLAN = {
  head: courseHead('lead'),
  hasMarks: false,
  components: [{ title: 'Exam' }],
  assessments: [{ title: 'Mock' }],
  away: [{ title: 'Gone' }],
  sections: [
    { id: 'east', weekdays: [2], firstDay: null },
    { id: 'west', weekdays: [4], firstDay: '2026-10-05' },
  ],
} as unknown as Plan

function pasted(took = true) {
  const added: NewPlan[] = []
  let closed = 0
  const page = inPage(<PastePlan plan={PLAN} onAdd={(plan) => (added.push(plan), Promise.resolve(took))} onClose={() => closed++} />)
  const table = () =>
    within(screen.getByRole('table', { name: 'What the lines would add' }))
      .getAllByRole('row')
      .slice(1)
      .map((r) => r.textContent)
  return { ...page, added, table, closed: () => closed }
}

test('what each line would add is shown as it is typed, and why another adds nothing; then all of it is added at once', async () => {
  const { user, added, table, closed } = pasted()
  await user.click(screen.getByLabelText(/^A line each/))
  await user.paste('Quiz 1; Quizzes 25%; 20; ; w3\nQuiz 2; ; 20; 5; 14 Dec\nGone; Exam; 10\nPaper; Exam; none')
  expect(table()).toEqual([
    '1Quiz 1Quizzes2020first meetings of week 3 · not in 1 section that begin later',
    '2Quiz 2Quizzes20514 Dec 2026',
    '3Gone; Exam; 10Gone stands in the plan already.',
    '4Paper; Exam; noneMarked out of “none”: give a number above 0, with 3 decimals at most.',
  ])
  expect(within(screen.getByRole('dialog')).getByRole('status').textContent).toBe(
    '2 assessments to add · new: Quizzes 25% · 2 lines left out',
  )
  await user.click(screen.getByRole('button', { name: 'Add 2 assessments' }))
  expect(added).toEqual([
    {
      components: [{ title: 'Quizzes', weight: 25 }],
      assessments: [
        { title: 'Quiz 1', component: 'Quizzes', outOf: 20, worth: null, due: [['east', '2026-09-22']] },
        {
          title: 'Quiz 2',
          component: 'Quizzes',
          outOf: 20,
          worth: 5,
          due: [
            ['east', '2026-12-14'],
            ['west', '2026-12-14'],
          ],
        },
      ],
    },
  ])
  expect(closed()).toBe(1)
})

test('what the server refuses stays in the dialog, as it was typed', async () => {
  const { user, closed } = pasted(false)
  await user.click(screen.getByLabelText(/^A line each/))
  await user.paste('Paper; Exam; 80')
  await user.click(screen.getByRole('button', { name: 'Add 1 assessment' }))
  expect(closed()).toBe(0)
  expect(screen.getByLabelText<HTMLTextAreaElement>(/^A line each/).value).toBe('Paper; Exam; 80')
})
