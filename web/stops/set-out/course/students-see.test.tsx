import { screen } from '@testing-library/react'
import { routes, type Plan, type StudentView, type StudentViewChange } from '#contract'
import { inPage, serverAnswers } from '../../../testing/in-page'
import { StudentsSee } from './StudentsSee'

jest.mock('../../../course/trial', () => ({ useTrial: () => ({ courseId: 'c', mayDecide: mayDecide.now }) }))
const mayDecide = { now: true }
const PLAN = { assessments: ['Map', 'Paper'].map((title) => ({ id: title, title })) } as unknown as Plan

function seen(view: StudentView) {
  const now = { ...view }
  const { sent } = serverAnswers([
    [routes.studentView, () => now],
    [
      routes.setStudentView,
      (change: StudentViewChange) =>
        Object.assign(now, 'assessmentId' in change ? { handIn: change.handedIn ? [change.assessmentId] : [] } : change),
    ],
  ])
  return { sent, ...inPage(<StudentsSee plan={PLAN} />) }
}
const box = (name: RegExp | string) => screen.getByRole<HTMLInputElement>('checkbox', { name })
const bodies = (sent: { method: string; body: unknown }[]) => sent.filter((s) => s.method === 'PATCH').map((s) => s.body)
afterEach(() => (mayDecide.now = true))

test('each thing is set by itself and taken back by undoing', async () => {
  const { user, sent } = seen({ soFar: false, askDays: null, handIn: ['Paper'] })
  await user.click(await screen.findByRole('checkbox', { name: /course so far/ }))
  await user.click(box('Map'))
  await user.click(box(/ask about a mark/))
  expect(bodies(sent)).toEqual([{ soFar: true }, { assessmentId: 'Map', handedIn: true }, { askDays: 14 }])
  await user.click(screen.getByRole('button', { name: /^Undo/ }))
  expect(bodies(sent).at(-1)).toEqual({ askDays: null })
})

test('days are typed, and only where asking is on', async () => {
  const { user, sent } = seen({ soFar: true, askDays: 21, handIn: [] })
  const days = await screen.findByRole<HTMLInputElement>('textbox', { name: 'Days for asking' })
  await user.clear(days)
  await user.type(days, '100{Enter}')
  expect(bodies(sent)).toEqual([])
  await user.clear(days)
  await user.type(days, '10{Enter}')
  expect(bodies(sent)).toEqual([{ askDays: 10 }])
})

test('who may not decide sees it and changes nothing', async () => {
  mayDecide.now = false
  seen({ soFar: true, askDays: 21, handIn: ['Map'] })
  expect((await screen.findByRole<HTMLInputElement>('checkbox', { name: 'Map' })).checked).toBe(true)
  expect(screen.getAllByRole<HTMLInputElement>('checkbox').every((c) => c.disabled)).toBe(true)
})
