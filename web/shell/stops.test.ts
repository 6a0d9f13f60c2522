import { sightOf } from '#core/roles'
import { smallCourse, smallTable } from '../testing/small-course'
import { needsMarks, RUN, STOPS, stopStates } from './stops'

test('a stop is clear as far as nothing is open there', () => {
  const nothing = stopStates({ ...smallCourse(smallTable([])), odd: 0 })
  expect(nothing.mark.open).toBeGreaterThan(0)
  expect(nothing.compare).toEqual({ open: 0, clear: 0 })
  expect(nothing.confirm).toEqual({ open: 4, clear: 0 })
  expect(RUN.every((stop) => nothing[stop].clear >= 0 && nothing[stop].clear <= 1)).toBe(true)
})

test('readings far apart are open at Reconcile until one mark is agreed; findings of the plan at Set out', () => {
  const scripts: Parameters<typeof smallTable>[0] = ['ada', 'bo', 'cy', 'di'].flatMap((id): Parameters<typeof smallTable>[0][number][] => [
    [id, 'paper', 20],
    [id, 'essay', id === 'ada' ? null : 10],
  ])
  const readings: Parameters<typeof smallTable>[1] = [
    ['ada', 'essay', 'mo', 6],
    ['ada', 'essay', 'ny', 15],
  ]
  const apart = stopStates({ ...smallCourse(smallTable(scripts, readings)), odd: 3 })
  expect(apart.reconcile.open).toBe(1)
  expect(apart.confirm.open).toBe(1)
  expect(apart['set-out']).toEqual({ open: 3, clear: 0.25 })
  const agreed = stopStates({ ...smallCourse(smallTable(scripts, readings, { agreed: { 'essay:ada': 11 } })), odd: 0 })
  expect(agreed.reconcile).toEqual({ open: 0, clear: 1 })
  expect(agreed.confirm.open).toBe(0)
})

test('who marks enters where the standard and the sheet are, who oversees every stop, and nobody else any', () => {
  const entered = (role: string) => RUN.filter((stop) => STOPS[stop].isFor(sightOf(role)))
  expect([entered('lead'), entered('external'), entered('marker'), entered('student'), entered('registrar')]).toEqual([
    RUN,
    RUN,
    ['agree', 'mark'],
    [],
    [],
  ])
})

test.each([
  ['/courses/c', false],
  ['/courses/c/set-out/roll', false],
  ['/courses/c/mark', false],
  ['/courses/c/post', false],
  ['/courses/c/bound', true],
  ['/courses/c/students/ada', true],
  ['/courses/c/record', true],
])('whether %s waits for the marks: %s', (path, waits) => expect(needsMarks(path)).toBe(waits))
