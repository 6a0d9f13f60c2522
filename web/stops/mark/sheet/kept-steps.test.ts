import { page } from '../../../api/client'
import { keptSteps, type SheetStep } from './kept-steps'

page.keepKey = btoa('k'.repeat(32))
const edit = (mark: number | null) => ({ studentId: 's', assessmentId: 'a', mark, status: 'in' as const, daysLate: 0 })
const step = (id: string, cells = 1): SheetStep => ({
  id,
  label: `mark ${id}`,
  before: Array.from({ length: cells }, () => edit(null)),
  after: Array.from({ length: cells }, () => edit(12)),
})
const ids = ({ done, undone }: { done: SheetStep[]; undone: SheetStep[] }) => [done.map((s) => s.id), undone.map((s) => s.id)]

const ROOM = 2_000_000

beforeAll(() => {
  const held = new Map<string, string>()
  Object.defineProperty(globalThis, 'localStorage', {
    value: {
      getItem: (k: string) => held.get(k) ?? null,
      setItem: (k: string, v: string) => {
        if (v.length > ROOM) throw new Error('QuotaExceededError')
        held.set(k, v)
      },
      removeItem: (k: string) => held.delete(k),
    },
    configurable: true,
  })
})

test('steps come back in their order, undone ones can be redone, and a new one ends that', () => {
  const kept = keptSteps('c', 'p')
  for (const id of ['1', '2', '3']) kept.did(step(id))
  kept.undid(step('3'))
  kept.undid(step('2'))
  expect(ids(keptSteps('c', 'p').read())).toEqual([['1'], ['3', '2']])
  kept.redid(step('2'))
  expect(ids(kept.read())).toEqual([['1', '2'], ['3']])
  kept.did(step('4'))
  expect(ids(kept.read())).toEqual([['1', '2', '4'], []])
})

test('steps are a person’s own; the latest hundred are kept, and none that would fill the browser', () => {
  const kept = keptSteps('c', 'other')
  expect(ids(kept.read())).toEqual([[], []])
  for (let i = 0; i < 105; i++) kept.did(step(String(i)))
  kept.did(step('large', 3001))
  expect(kept.read().done).toHaveLength(100)
  expect(kept.read().done.at(-1)!.id).toBe('104')
})

test('what is no step is as nothing', () => {
  localStorage.setItem('level-table-steps c broken', '{"done":[{}]}')
  expect(ids(keptSteps('c', 'broken').read())).toEqual([[], []])
})

test('where there is no room for all, undone steps go first and then the oldest; the step itself is not lost to the page', () => {
  const kept = keptSteps('c', 'crowded')
  kept.did(step('undone', 3000))
  kept.undid(step('undone', 3000))
  kept.redid(step('undone', 3000))
  kept.undid(step('undone', 3000))
  for (let i = 0; i < 5; i++) kept.did(step(String(i), 3000))
  const [done, undone] = ids(kept.read())
  expect(undone).toEqual([])
  expect(done!.at(-1)).toBe('4')
  expect(done!.length).toBeLessThan(5)
})
