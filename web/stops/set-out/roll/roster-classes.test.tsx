import { screen } from '@testing-library/react'
import type { TriedRoll } from '#contract'
import { inPage } from '../../../testing/in-page'
import { RosterClasses } from './RosterClasses'

type Roster = NonNullable<TriedRoll['roster']>
const one = (sourceId: string, course: string, chosen: boolean): Roster['classes'][number] => ({
  sourceId,
  code: sourceId.toUpperCase(),
  title: `Class ${sourceId}`,
  course,
  students: 12,
  chosen,
})
const ROSTER: Roster = {
  delta: false,
  left: 24,
  learnt: 0,
  classes: [one('a', 'CFS 214 Field Mapping', true), one('b', 'CFS 214 Field Mapping', false), one('c', 'CFS 301 Tides', false)],
}

test('classes stand under their courses; one is taken in or a whole course, and what is left is said', async () => {
  const onChoose = jest.fn()
  const { user } = inPage(<RosterClasses roster={ROSTER} onChoose={onChoose} />)
  const whole = screen.getByRole<HTMLInputElement>('checkbox', { name: 'CFS 214 Field Mapping: 1 of 2 classes' })
  expect([whole.checked, whole.indeterminate]).toEqual([false, true])
  expect(screen.getByText('24 enrolments in other classes are left where they are.')).toBeTruthy()
  await user.click(screen.getByRole('checkbox', { name: /^C Class c/ }))
  expect(onChoose).toHaveBeenLastCalledWith(['a', 'c'])
  await user.click(whole)
  expect(onChoose).toHaveBeenLastCalledWith(['a', 'b'])
  await user.click(screen.getByRole('checkbox', { name: /^A Class a/ }))
  expect(onChoose).toHaveBeenLastCalledWith([])
})

test('where all classes are of one course and read nothing is asked; changes and what is kept are said', () => {
  const own = { ...ROSTER, delta: true, learnt: 3, left: 0, classes: [ROSTER.classes[0]!] }
  inPage(<RosterClasses roster={own} onChoose={() => undefined} />)
  expect(screen.queryByRole('checkbox')).toBeNull()
  expect(screen.getByText(/says what changed since another/)).toBeTruthy()
  expect(screen.getByText(/are kept: the next roster finds them again/)).toBeTruthy()
})
